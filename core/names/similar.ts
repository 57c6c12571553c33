import { doubleMetaphone } from 'double-metaphone';
import { fold } from './text.ts';

/** First names and what their bearers are called; every name of a group may stand for the others. */
const GROUPS = [
  'william bill billy will willy liam',
  'robert bob bobby rob robbie bert',
  'richard dick rick rich ricky',
  'james jim jimmy jamie',
  'john jack johnny jon',
  'joseph joe joey',
  'charles charlie chuck chas',
  'thomas tom tommy',
  'edward ed eddie ted ned',
  'theodore ted teddy theo',
  'michael mike mick mickey',
  'david dave davy',
  'daniel dan danny',
  'matthew matt',
  'andrew andy drew',
  'anthony tony',
  'christopher chris kit',
  'nicholas nick nicky',
  'alexander alex al sandy xander',
  'benjamin ben benny',
  'samuel sam sammy',
  'joshua josh',
  'patrick pat paddy',
  'peter pete',
  'stephen steven steve',
  'gregory greg',
  'kenneth ken kenny',
  'lawrence laurence larry',
  'ronald ron ronnie',
  'donald don donnie',
  'timothy tim',
  'frederick fred freddie',
  'raymond ray',
  'gerald gerry jerry',
  'leonard len lenny',
  'phillip philip phil',
  'henry hank harry',
  'harold hal harry',
  'eugene gene',
  'walter walt',
  'elizabeth liz beth betsy betty eliza lisa libby bess',
  'margaret maggie meg peg peggy margie rita greta',
  'katherine catherine kathryn kate kathy cathy katie kitty kay',
  'mary molly polly mamie',
  'patricia pat patty tricia trish',
  'susan sue susie suzanne',
  'barbara barb babs',
  'jennifer jen jenny',
  'deborah deb debbie debra',
  'rebecca becky becca',
  'victoria vicky tori',
  'virginia ginny',
  'dorothy dot dottie dolly',
  'eleanor ellie nell nora',
  'helen nell ellen',
  'frances fran francie',
  'jacqueline jackie',
  'judith judy',
  'pamela pam',
  'sandra sandy',
  'theresa teresa terry tess',
  'cynthia cindy',
  'christina christine chris tina chrissy',
  'abigail abby gail',
  'amanda mandy',
  'samantha sam',
  'alexandra alex sandra sasha',
  'josephine jo josie',
  'ana anna anne ann annie nan',
].map((group) => group.split(' '));

const siblings = new Map<string, Set<string>>();
for (const group of GROUPS)
  for (const name of group) siblings.set(name, new Set([...(siblings.get(name) ?? []), ...group]));

/** Other names that people of this first name go by, folded; empty where none is known. */
export const otherNames = (first: string): string[] =>
  [...(siblings.get(fold(first)) ?? [])].filter((name) => name !== fold(first));

const groupsIn = new Map<string, number[]>();
GROUPS.forEach((group, at) => {
  for (const name of group) groupsIn.set(name, [...(groupsIn.get(name) ?? []), at]);
});

/** The groups of names that a folded first name is in, by number: Bob and Robert share one; none where none is known. */
export const nameGroups = (first: string): readonly number[] => groupsIn.get(first) ?? [];

/** The sounds of a word by Lawrence Philips' Double Metaphone: one or two keys, none for what has no letters. */
export function sounds(word: string): string[] {
  return [...new Set(doubleMetaphone(word))].filter((key) => key !== '');
}

/**
 * How many letters one must put in, take out, change, or swap with a neighbour to get from one word to the other
 * (optimal string alignment); `most + 1` as soon as it is more than `most`.
 */
export function slips(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, at) => at);
  for (let i = 1; i <= a.length; i++) {
    const now = [i];
    let least = i;
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1];
      let cost = Math.min((last[j] ?? 0) + 1, (now[j - 1] ?? 0) + 1, (last[j - 1] ?? 0) + (same ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        cost = Math.min(cost, (before[j - 2] ?? 0) + 1);
      now.push(cost);
      least = Math.min(least, cost);
    }
    if (least > most) return most + 1;
    [before, last] = [last, now];
  }
  return Math.min(last[b.length] ?? 0, most + 1);
}

/** How many slips a word of its length is forgiven. */
export const forgiven = (word: string): number => (word.length < 4 ? 0 : word.length < 8 ? 1 : 2);
