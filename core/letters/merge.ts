import { isMergeField, OWN } from './fields.ts';
import type { MergeValues } from './fields.ts';

/** A letter or e-mail body as its editor stores it: a tree of nodes with marks on text. */
export interface LetterNode {
  type: string;
  text?: string;
  attrs?: Record<string, unknown>;
  marks?: { type: string; attrs?: Record<string, unknown> }[];
  content?: LetterNode[];
}

/** `{first|friend}` in a line; a field has no other form there. */
const IN_LINE = /\{([\w-]+)(?:\|([^{}]*))?\}/g;

export interface Run {
  text: string;
  bold: boolean;
  italic: boolean;
  link: string | null;
}

/** A merged letter, ready to be drawn: no fields are left in it. */
export interface Block {
  kind: 'paragraph' | 'heading' | 'bullet' | 'numbered';
  /** Place in its numbered list, from 1. */
  number: number;
  runs: Run[];
}

export interface Merged {
  blocks: Block[];
  /** Fields that had no value and no fallback, so that nothing stands in their place. */
  missing: string[];
}

/**
 * Puts values into a letter. A field without a value takes its fallback; one with neither leaves nothing and is
 * reported. Nodes of kinds not known here keep their text and lose their form.
 */
export function mergeLetter(doc: LetterNode, values: MergeValues): Merged {
  const missing = new Set<string>();
  const blocks: Block[] = [];
  const walk = (node: LetterNode, kind: Block['kind'], number: number): void => {
    switch (node.type) {
      case 'bulletList':
        for (const item of node.content ?? []) walk(item, 'bullet', 0);
        return;
      case 'orderedList':
        (node.content ?? []).forEach((item, index) => walk(item, 'numbered', index + 1));
        return;
      case 'paragraph':
      case 'heading': {
        const runs = (node.content ?? []).flatMap((inner) => runsOf(inner, values, missing));
        blocks.push({ kind: node.type === 'heading' ? 'heading' : kind, number, runs: joinRuns(runs) });
        return;
      }
      default:
        for (const inner of node.content ?? []) walk(inner, kind, number);
    }
  };
  walk(doc, 'paragraph', 0);
  return { blocks, missing: [...missing] };
}

/** All that a letter or a note says, on one line: its paragraphs with a space between them, without form. */
export const plainWords = (doc: LetterNode): string =>
  mergeLetter(doc, {})
    .blocks.map(({ runs }) => runs.map(({ text }) => text).join(''))
    .join(' ')
    .replace(/\s+/g, ' ')
    .trim();

function runsOf(node: LetterNode, values: MergeValues, missing: Set<string>): Run[] {
  const marked = (type: string) => node.marks?.find((mark) => mark.type === type);
  const href = marked('link')?.attrs?.['href'];
  const run = (text: string): Run => ({
    text,
    bold: marked('bold') !== undefined,
    italic: marked('italic') !== undefined,
    link: typeof href === 'string' && /^(https?:|mailto:)/i.test(href) ? href : null,
  });
  if (node.type === 'text') return [run(node.text ?? '')];
  if (node.type === 'hardBreak') return [run('\n')];
  if (node.type === 'mergeField')
    return [
      run(fieldValue(String(node.attrs?.['field'] ?? ''), String(node.attrs?.['fallback'] ?? ''), values, missing)),
    ];
  return (node.content ?? []).flatMap((inner) => runsOf(inner, values, missing));
}

function fieldValue(field: string, fallback: string, values: MergeValues, missing: Set<string>): string {
  const value = Object.hasOwn(values, field) ? (values[field] ?? '') : '';
  if (value !== '') return value;
  if (fallback === '') missing.add(field);
  return fallback;
}

function joinRuns(runs: Run[]): Run[] {
  const joined: Run[] = [];
  for (const run of runs) {
    const last = joined.at(-1);
    if (last && last.bold === run.bold && last.italic === run.italic && last.link === run.link) last.text += run.text;
    else if (run.text !== '') joined.push({ ...run });
  }
  return joined;
}

/**
 * The fields that a letter names and that there are not: neither one of ours nor a custom field among `own`, by id.
 * In the order of their appearance, each once.
 */
export function unknownFields(letter: { subject: string; body: LetterNode }, own: readonly number[]): string[] {
  const named = [...letter.subject.matchAll(IN_LINE)].map(([, field = '']) => field);
  const walk = (node: LetterNode): void => {
    if (node.type === 'mergeField') named.push(String(node.attrs?.['field'] ?? ''));
    for (const inner of node.content ?? []) walk(inner);
  };
  walk(letter.body);
  const isKnown = (name: string): boolean => isMergeField(name) || own.includes(Number(OWN.exec(name)?.[1] ?? NaN));
  return [...new Set(named)].filter((name) => !isKnown(name));
}

/** The longest subject line that is kept and sent. */
export const LONGEST_SUBJECT = 200;

/** Puts values into one line such as a subject, where fields stand as `{first|friend}`; one too long is cut short. */
export function mergeLine(template: string, values: MergeValues): { text: string; missing: string[] } {
  const missing = new Set<string>();
  const text = template.replace(IN_LINE, (whole, field: string, fallback: string | undefined) =>
    isMergeField(field) || OWN.test(field) ? fieldValue(field, fallback ?? '', values, missing) : whole,
  );
  return { text: shortened(text.replace(/[\r\n]+/g, ' ')), missing: [...missing] };
}

/** At most so many characters as are kept, the last an ellipsis where it was cut; no character is cut in two. */
function shortened(line: string): string {
  if (line.length <= LONGEST_SUBJECT) return line;
  const letters = [...line.slice(0, LONGEST_SUBJECT)];
  while (letters.join('').length > LONGEST_SUBJECT - 1) letters.pop();
  return `${letters.join('').trimEnd()}…`;
}

export function escapeHtml(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}

/** The body of an HTML message; every piece of text is escaped, links are http(s) or mailto only. */
export function lettersHtml(blocks: readonly Block[]): string {
  let html = '';
  let list: 'ul' | 'ol' | null = null;
  const close = (next: 'ul' | 'ol' | null): void => {
    if (list !== next) html += `${list ? `</${list}>` : ''}${next ? `<${next}>` : ''}`;
    list = next;
  };
  for (const block of blocks) {
    const inner = block.runs.map(runHtml).join('');
    close(block.kind === 'bullet' ? 'ul' : block.kind === 'numbered' ? 'ol' : null);
    if (list) html += `<li>${inner}</li>`;
    else html += block.kind === 'heading' ? `<h2>${inner}</h2>` : `<p>${inner}</p>`;
  }
  close(null);
  return html;
}

function runHtml(run: Run): string {
  let html = escapeHtml(run.text).replace(/\n/g, '<br>');
  if (run.italic) html = `<em>${html}</em>`;
  if (run.bold) html = `<strong>${html}</strong>`;
  return run.link ? `<a href="${escapeHtml(run.link)}">${html}</a>` : html;
}

/** The same as plain text, links written out after their words. */
export function lettersText(blocks: readonly Block[]): string {
  return blocks
    .map((block) => {
      const inner = block.runs
        .map((run) => (run.link && run.link !== run.text ? `${run.text} (${run.link})` : run.text))
        .join('');
      if (block.kind === 'bullet') return `- ${inner}`;
      return block.kind === 'numbered' ? `${block.number}. ${inner}` : inner;
    })
    .join('\n\n');
}
