import { Node, mergeAttributes } from '@tiptap/core';
import { EditorContent, useEditor } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import { useQuery } from '@tanstack/react-query';
import { Bold, Italic, List, ListOrdered } from 'lucide-react';
import { useId, useState } from 'react';
import { CATALOGUED, FIELD_RULES, MERGE_FIELDS, mergeFieldWord } from '@tallystick/core/letters';
import type { LetterNode, MergeField } from '@tallystick/core/letters';
import { listFields } from '@tallystick/contract/fields';
import { ask } from './api.ts';
import { Choice } from './choice/index.tsx';
import { Button, Field, IconButton, Input } from './controls.tsx';

/** A merge field in the text, shown as a chip with its fallback. */
const MergeFieldNode = Node.create({
  name: 'mergeField',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({ field: { default: 'first' }, fallback: { default: '' } }),
  parseHTML: () => [{ tag: 'span[data-field]' }],
  renderHTML: ({ node, HTMLAttributes }) => {
    const { field, fallback }: { field?: string; fallback?: string } = node.attrs;
    const name = mergeFieldWord(field ?? '');
    return [
      'span',
      mergeAttributes(HTMLAttributes, {
        'data-field': field,
        class: 'rounded bg-straw px-1 font-sans text-[13px] text-straw-ink',
      }),
      fallback ? `${name}, or “${fallback}”` : name,
    ];
  },
});

/** An editor for letters and e-mails; `onChange` gets the tree that is stored. */
export default function LetterEditor(props: {
  value: LetterNode;
  onChange: (value: LetterNode) => void;
  label: string;
  readOnly?: boolean;
  /** Without merge fields, as for notes. */
  plain?: boolean;
}) {
  const own = useQuery(ask(listFields));
  const [field, setField] = useState<string>('salutation');
  const [fallback, setFallback] = useState('friend');
  const hint = useId();
  const editor = useEditor({
    extensions: [
      StarterKit.configure({
        heading: { levels: [2] },
        codeBlock: false,
        blockquote: false,
        horizontalRule: false,
        code: false,
        strike: false,
        underline: false,
      }),
      MergeFieldNode,
    ],
    content: props.value,
    editable: !props.readOnly,
    editorProps: {
      attributes: {
        class: 'letter min-h-56 px-4 py-3',
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': props.label,
        'aria-describedby': hint,
      },
    },
    onUpdate: ({ editor: changed }) => props.onChange(changed.getJSON() as LetterNode),
  });
  const insert = (): void => {
    editor?.chain().focus().insertContent({ type: 'mergeField', attrs: { field, fallback } }).run();
  };
  return (
    <div className="rounded border border-rule bg-sheet">
      {!props.readOnly && (
        <div className="flex flex-wrap items-end gap-2 border-b border-rule px-2 py-1.5">
          <div className="flex pb-0.5">
            <IconButton label="Bold" onClick={() => editor?.chain().focus().toggleBold().run()}>
              <Bold size={15} />
            </IconButton>
            <IconButton label="Italic" onClick={() => editor?.chain().focus().toggleItalic().run()}>
              <Italic size={15} />
            </IconButton>
            <IconButton label="List" onClick={() => editor?.chain().focus().toggleBulletList().run()}>
              <List size={15} />
            </IconButton>
            <IconButton label="Numbered list" onClick={() => editor?.chain().focus().toggleOrderedList().run()}>
              <ListOrdered size={15} />
            </IconButton>
          </div>
          {!props.plain && (
            <>
              <Field label="Merge field" className="w-52" hint={FIELD_RULES[field as MergeField]}>
                {(attributes) => (
                  <Choice
                    {...attributes}
                    value={field}
                    onChange={setField}
                    options={[
                      ...Object.entries({ ...MERGE_FIELDS, ...CATALOGUED }).map(([value, label]) => ({ value, label })),
                      ...(own.data?.items.map((one) => ({ value: `field${one.id}`, label: one.name })) ?? []),
                    ]}
                  />
                )}
              </Field>
              <Field label="If it is empty, write" className="w-40">
                {(attributes) => (
                  <Input {...attributes} value={fallback} onChange={(event) => setFallback(event.target.value)} />
                )}
              </Field>
              <Button onClick={insert}>Insert field</Button>
            </>
          )}
        </div>
      )}
      <div id={hint} className="sr-only">
        Ctrl+B makes text bold, Ctrl+I italic.
      </div>
      <EditorContent editor={editor} />
    </div>
  );
}
