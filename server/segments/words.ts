import { fieldsWith } from '@tallystick/core/catalogue';
import type { OwnField } from '@tallystick/core/catalogue';
import type { Calendar } from '@tallystick/core/dates';
import type { Formats } from '@tallystick/core/money';
import { describeCondition, describeGroup } from '@tallystick/core/segments';
import type { Condition, Explanation, Group, Wording } from '@tallystick/core/segments';
import { CHOICES_OF } from '@tallystick/contract/setup';
import type { Choices } from '../settings/index.ts';

const nameIn = (list: readonly { id: number; name: string }[], id: number): string =>
  list.find((item) => item.id === id)?.name ?? (id === 0 ? 'that is still to be chosen' : 'something removed');

/** What words about conditions are made with: names from everything there is to choose from. */
export const wordingOf = (known: {
  calendar: Calendar;
  formats: Formats;
  own: readonly OwnField[];
  choices: Choices;
  segments: readonly { id: number; name: string }[];
  lists: readonly { id: number; name: string }[];
}): Wording => ({
  ...{ calendar: known.calendar, formats: known.formats, fields: fieldsWith(known.own) },
  nameOf: (to, id) => nameIn(known.choices[CHOICES_OF[to]] as { id: number; name: string }[], id),
  listName: (id) => nameIn(known.lists, id),
  segmentName: (id) => nameIn(known.segments, id),
});

/** The sentence for each part of a group, in their order. */
export const partSentences = (group: Group, wording: Wording): string[] =>
  group.parts.map((part) => partWords(part, wording));

const partWords = (part: Condition | Group, wording: Wording): string =>
  part.kind === 'group' ? describeGroup(part, wording) : describeCondition(part, wording);

interface Line {
  depth: number;
  sentence: string;
  saw: string;
  matches: boolean;
}
const OF_THESE = { all: 'all of these', any: 'any of these', none: 'none of these' } as const;

/** An explanation as lines, each as deep as its group. */
export function linesOf(part: Explanation, wording: Wording, depth = 0): Line[] {
  const { matches } = part;
  if (part.kind === 'condition')
    return [{ depth, sentence: describeCondition(part.condition, wording), saw: part.saw, matches }];
  const sentence = `${part.off ? '(switched off) ' : ''}${OF_THESE[part.join]}`;
  return [{ depth, sentence, saw: '', matches }, ...part.parts.flatMap((inner) => linesOf(inner, wording, depth + 1))];
}
