import { fold } from './text.ts';

/** One person's name as it was split; parts that are absent are empty strings. */
export interface SplitName {
  prefix: string;
  first: string;
  middle: string;
  last: string;
  suffix: string;
  nickname: string;
}

const list = (words: string): ReadonlySet<string> => new Set(words.split(' '));

/** Words that may stand before a name, without their points. */
const PREFIXES = list(
  'mr mrs ms miss mx master dr doctor prof professor rev reverend revd fr father sr sra srta señor señora br brother ' +
    'sister rabbi imam pastor deacon hon honorable honourable judge justice sen senator rep gov ambassador capt captain ' +
    'cpt lt lieutenant col colonel maj major gen general sgt sergeant adm admiral cmdr commander cdr pvt cpl sir dame ' +
    'lord lady madame mme mlle herr frau dott dra ing the most right very',
);
/** Words that stand after a name, without their points, in the form they are written. */
const SUFFIXES = new Map(
  'Jr. Sr. II III IV 2nd 3rd 4th Esq. Ph.D. M.D. D.O. D.D.S. D.M.D. D.V.M. R.N. J.D. LL.M. LL.B. M.B.A. M.S.W. M.A. B.A. M.S. B.S. Ed.D. Psy.D. D.Min. D.D. C.P.A. C.F.P. P.E. A.I.A. F.A.I.A. O.B.E. M.B.E. C.B.E. U.S.N. U.S.A.F. U.S.M.C. Ret. OSB SJ CFRE'
    .split(' ')
    .map((suffix) => [bare(suffix), suffix]),
);
SUFFIXES.set('v', 'V').set('junior', 'Jr.').set('senior', 'Sr.').set('esquire', 'Esq.');
/** Suffixes that are also plain names or initials: taken only where something marks them. */
const DOUBTFUL = list('v ma ba ms bs do pe dd sr');
/** Words that open a last name of several words. */
const PARTICLES = list(
  "van von vom vander vanden der den de del della dello dela la las los le lo da das do dos du di d' af av zu zum zur " +
    "ten ter te 't bin ibn ben bat al el abu st saint san santa ap ab op ver y e i mac mc o'",
);

/** A word without points and apostrophes, folded: `Ph.D.` and `PhD` are both `phd`. */
function bare(word: string): string {
  return fold(word).replace(/[.,]/g, '');
}

const isInitial = (word: string): boolean => /^\p{L}\.?$/u.test(word);

/**
 * Splits a full name as people and files write it: `Dr. Ana-María de la Cruz-Smith, Jr.`, `SMITH, JOHN Q`,
 * `William "Bill" O'Neill`. Names all in capitals or all in small letters are written as names are. A single word
 * is a first name, or a last name after a prefix. Where a first and a last name leave words between them, those
 * are middle names: two last names without a hyphen cannot be told from a middle name.
 */
export function splitName(text: string): SplitName {
  const { plain, nickname } = withoutNickname(text.normalize('NFC').replace(/\s+/g, ' ').trim());
  const { words, suffix, turned } = inOrder(plain);
  const prefix: string[] = [];
  while (words.length > (turned ? 0 : 1) && isPrefix(words[0] ?? '', words[1], prefix.length))
    prefix.push(words.shift() ?? '');
  const parts = turned
    ? { last: turned, first: words[0] ?? '', middle: words.slice(1).join(' ') }
    : placed(words, prefix.join(' '));
  const split = { prefix: prefix.join(' '), ...parts, suffix, nickname };
  return needsCase(plain) ? recased(split) : split;
}

function isPrefix(word: string, next: string | undefined, place: number): boolean {
  const name = bare(word);
  if (!PREFIXES.has(name)) return false;
  if (['the', 'most', 'right', 'very'].includes(name)) return next !== undefined && PREFIXES.has(bare(next));
  // 'Major Smith' and 'Rev. Judge Smith' are people with ranks; 'Judge' after a first name is not reached here.
  return place < 4;
}

function withoutNickname(text: string): { plain: string; nickname: string } {
  const found = /["“”«]([^"“”»]+)["“”»]|\(([^)]+)\)|(?<=\s)['‘]([^'’]+)['’](?=\s|$)/u.exec(text);
  if (!found) return { plain: text, nickname: '' };
  const inside = (found[1] ?? found[2] ?? found[3] ?? '').trim();
  const plain = `${text.slice(0, found.index)} ${text.slice(found.index + found[0].length)}`
    .replace(/\s+/g, ' ')
    .replace(/ ,/g, ',')
    .trim();
  // '(Ret.)' is a suffix in brackets, '(née Hall)' a former name; neither is what a person is called.
  if (SUFFIXES.has(bare(inside))) return { plain: `${plain}, ${inside}`, nickname: '' };
  return { plain, nickname: /^(née|nee|formerly|fka)\b/i.test(inside) ? '' : inside };
}

/** The words in the order first to last, the suffixes apart; `turned` is the last name of `Last, First`. */
function inOrder(text: string): { words: string[]; suffix: string; turned: string } {
  const segments = text
    .split(',')
    .map((segment) => segment.trim())
    .filter(Boolean);
  const suffixes: string[] = [];
  while (segments.length > 1) {
    const words = (segments.at(-1) ?? '').split(' ');
    if (!words.every((word) => SUFFIXES.has(bare(word)))) break;
    suffixes.unshift(...words);
    segments.pop();
  }
  const [head = '', ...rest] = segments;
  const first = head.split(' ');
  if (rest.length === 0) {
    const trailing = trailingSuffixes(first, 2);
    return { words: first, suffix: written([...trailing, ...suffixes]), turned: '' };
  }
  const given = rest.join(' ').split(' ');
  const own = trailingSuffixes(first, 1);
  const trailing = trailingSuffixes(given, 1);
  return { words: given, suffix: written([...own, ...trailing, ...suffixes]), turned: first.join(' ') };
}

/** Takes suffixes off the end of `words`, leaving at least `least` of them. */
function trailingSuffixes(words: string[], least: number): string[] {
  const taken: string[] = [];
  for (let word = words.at(-1); word !== undefined && words.length > least; word = words.at(-1)) {
    const name = bare(word);
    if (!SUFFIXES.has(name)) break;
    const marked = word.includes('.') || (word.length > 1 && word === word.toUpperCase() && !isAllCapitals(words));
    if (DOUBTFUL.has(name) && !(marked || (name === 'v' && words.length > 2 && word === 'V'))) break;
    if (name === 'v' && word.includes('.')) break;
    taken.unshift(word);
    words.pop();
  }
  return taken;
}

const isAllCapitals = (words: readonly string[]): boolean => words.every((word) => word === word.toUpperCase());
const written = (suffixes: readonly string[]): string =>
  suffixes.map((suffix) => SUFFIXES.get(bare(suffix)) ?? suffix).join(', ');

const isParticle = (word: string): boolean => PARTICLES.has(word.toLowerCase().replace('.', ''));
const WRITTEN_LARGE = list('st saint san santa mac mc al el le ver ben');
/** Religious are called by their first name. */
const FIRST_NAMED = list('sister brother');

function placed(words: readonly string[], prefix: string): { first: string; middle: string; last: string } {
  if (words.length === 1) {
    const only = words[0] ?? '';
    const asLast = prefix !== '' && !FIRST_NAMED.has(bare(prefix));
    return asLast ? { first: '', middle: '', last: only } : { first: only, middle: '', last: '' };
  }
  const least = prefix !== '' && isParticle(words[0] ?? '') ? 0 : 1;
  let from = words.length - 1;
  const takeParticles = (): void => {
    while (from > least && isParticle(words[from - 1] ?? '') && !isInitialOf(words, from - 1)) from--;
  };
  takeParticles();
  // 'Ramón y Cajal': what joins two last names has one before it too.
  if (from > 1 && ['y', 'e', 'i'].includes(words[from] ?? '')) {
    from--;
    takeParticles();
  }
  return {
    first: from === 0 ? '' : (words[0] ?? ''),
    middle: words.slice(1, from).join(' '),
    last: words.slice(from).join(' '),
  };
}

/** `E` and `Y` written large or with a point are initials, written small they join last names. */
const isInitialOf = (words: readonly string[], at: number): boolean => {
  const word = words[at] ?? '';
  return isInitial(word) && (word.includes('.') || word === word.toUpperCase());
};

const needsCase = (text: string): boolean =>
  /\p{L}{2}/u.test(text) && (text === text.toUpperCase() || text === text.toLowerCase()) && /\p{Lu}|\p{Ll}/u.test(text);

function recased(name: SplitName): SplitName {
  return {
    prefix: properCase(name.prefix),
    first: properCase(name.first),
    middle: properCase(name.middle),
    last: properCase(name.last),
    suffix: name.suffix,
    nickname: properCase(name.nickname),
  };
}

/**
 * A name in capitals or small letters as names are written: `MCDONALD-O'NEILL` becomes `McDonald-O'Neill`, `DE LA
 * CRUZ` becomes `de la Cruz`. `Mac` is left as `Macdonald`, since `Mack` and `Machado` cannot be told from it.
 */
export function properCase(text: string): string {
  return text
    .split(' ')
    .map((word) =>
      isParticle(word) && !WRITTEN_LARGE.has(bare(word)) && !isInitial(word) && text.includes(' ')
        ? word.toLowerCase()
        : word
            .toLowerCase()
            .replace(/(^|[-'’.])(\p{L})/gu, (_all, before: string, letter: string) => before + letter.toUpperCase())
            .replace(/^Mc(\p{L})/u, (_all, letter: string) => `Mc${letter.toUpperCase()}`)
            .replace(/(['’])S$/u, '$1s'),
    )
    .join(' ');
}

/**
 * Splits the names of one or two people written together: `Mr. and Mrs. John Smith`, `John & Jane Smith`,
 * `SMITH, JOHN AND JANE`, `Dr. Ana Cruz and Mr. Lee Park`. A last name said once is everyone's.
 */
export function splitPeople(text: string): SplitName[] {
  const clean = text.normalize('NFC').replace(/\s+/g, ' ').trim();
  const halves = /^(.+?)\s*(?:&|\+|\band\b)\s*(.+)$/i.exec(clean);
  if (!halves) return [splitName(clean)];
  const [, left = '', right = ''] = halves;
  if (left.includes(',') && !SUFFIXES.has(bare(left.split(',')[1] ?? ''))) {
    const last = left.split(',')[0] ?? '';
    return [splitName(left), right.includes(',') ? splitName(right) : splitName(`${last}, ${right}`)];
  }
  const second = splitName(right);
  const leftWords = left.split(' ').filter((word) => !PREFIXES.has(bare(word)));
  if (leftWords.length === 0) {
    // 'Mr. and Mrs. John Smith': the first name is the first person's.
    return [
      { ...second, prefix: left },
      { ...second, first: '', middle: '', suffix: '', nickname: '', prefix: second.prefix },
    ];
  }
  const first =
    leftWords.length === 1 ? { ...splitName(leftWords[0] ?? ''), prefix: splitName(left).prefix } : splitName(left);
  if (first.last === '' || isInitial(first.last))
    return [{ ...first, middle: [first.middle, first.last].filter(Boolean).join(' '), last: second.last }, second];
  return [first, second];
}

const ORGANIZATION_WORDS = list(
  'inc incorporated llc llp lp ltd limited corp corporation co company companies foundation fund trust association assn ' +
    'society club church chapel temple synagogue mosque parish ministries school schools academy college university ' +
    'institute library museum hospital clinic bank bakery cafe restaurant hotel inn motel market hardware garage auto ' +
    'services service group partners holdings enterprises industries systems solutions realty properties farms ranch ' +
    'center centre council committee department district county city town village union league guild coalition ' +
    'conservancy observatory rotary lions kiwanis gmbh sa plc pty',
);

/** Whether a text names an organization rather than a person: a word of organizations is in it. */
export function looksLikeOrganization(text: string): boolean {
  const words = fold(text)
    .replace(/[.,]/g, '')
    .split(/[^\p{L}\p{N}]+/u);
  return words.length > 1 && words.some((word) => ORGANIZATION_WORDS.has(word));
}
