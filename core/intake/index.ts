export {
  columnLabel,
  fieldIn,
  INTAKE_COLUMNS,
  INTAKE_FIELDS,
  INTAKE_GROUPS,
  isIntakeColumn,
  nthOf,
  ownField,
  WISH_COLUMNS,
} from './fields.ts';
export type { Destination, IntakeColumn, IntakeField, IntakeGroup } from './fields.ts';
export { believed, fieldByContent, labelIn, matchContent, matchHeadings } from './suggest.ts';
export { madeFault, madeOf, MOST_MADE, usedIn, withMade, withoutMade } from './made.ts';
export type { MadeColumn, MadePart } from './made.ts';
export { caredFor, carer, caresFor, valueKey } from './care.ts';
export type { Care, Cares } from './care.ts';
export { readDetails } from './details.ts';
export { eachOf, noneOf } from './cells.ts';
export type { FiledAddress, NameColumn, RowDetails } from './details.ts';
export type { FiledWish } from './life.ts';
export { changesOf, NOBODY_BESIDES, oneLineOf, POLICIES, POLICY_PARTS, recordOfDraft, tieKey } from './merge.ts';
export type { ChangeAct, NamedBesides, Policies, Policy, PolicyPart, RecordChange } from './merge.ts';
export type { KeptRecord } from './ways.ts';
export { byRecipe, nearestRecipe, ofFile, recipeDiffers, recipeFor, recipeOf } from './recipe.ts';
export type { Recipe, RecipeColumn, RecipeMade, RecipeDiffers, RecipeSetting } from './recipe.ts';
export { remarksOn, tableOfCards, tableOfObjects, tableStart } from './sources.ts';
export type { FileRow } from './sources.ts';
export { readRow, LONGEST_NAME } from './rows.ts';
export type { NamedMember } from './names.ts';
export type { Choice, DraftGift, DraftRow, RowProblem, RowSetting } from './rows.ts';
export { giftKindOf } from './kinds.ts';
export type { GiftKind } from './kinds.ts';
export { keptBy } from './promises.ts';
export type { DraftPledge, DraftRecurring, Keeps, OpenPledge } from './promises.ts';
export { namedIn } from './named.ts';
export { besideOf } from './beside.ts';
export type { Beside } from './beside.ts';
export {
  comparableOf,
  called,
  togetherBy,
  LONGEST_CALLED,
  LOOKED_UP_BY,
  MATCH_FIELDS,
  matchRow,
  unlikeNames,
  USUAL_MATCHING,
} from './match.ts';
export type { Candidate, Here, Known, Matching, MatchField, Pick, RowMatch } from './match.ts';
export { rankReadings, toldApart } from './encodings.ts';
export type { Reading, ToldReading } from './encodings.ts';
export { isDay, looksLikeRow, orderIn, questionsOf, totalsAsked, WHY_LEFT_OUT } from './questions.ts';
export type { IntakeQuestion } from './questions.ts';
export { dateOrderOf, readFileDate } from './dates.ts';
export type { DateOrder, OrderFound } from './dates.ts';

/** The separator of a delimited text: the one of `; , tab |` that gives its first lines the most even cells. */
export function separatorOf(text: string): string {
  const lines = text.split(/\r?\n/, 20).filter((line) => line.trim() !== '');
  let best = { separator: ',', score: 0 };
  for (const separator of [',', ';', '\t', '|']) {
    const counts = lines.map((line) => line.replace(/"(?:[^"]|"")*"/g, '').split(separator).length - 1);
    const first = counts[0] ?? 0;
    const score = first * counts.filter((count) => count === first).length;
    if (score > best.score) best = { separator, score };
  }
  return best.separator;
}

/** Whether bytes are no text: a NUL among the first 8 kB, or a known signature (PDF, ZIP, PNG, JPEG, GIF). */
export function looksBinary(bytes: Uint8Array): boolean {
  const head = bytes.subarray(0, 8192);
  if ((head[0] === 0xff && head[1] === 0xfe) || (head[0] === 0xfe && head[1] === 0xff)) return false;
  const signatures = ['%PDF', 'PK\u0003\u0004', '\u0089PNG', '\u00ff\u00d8\u00ff', 'GIF8'];
  const start = String.fromCharCode(...head.subarray(0, 4));
  return head.includes(0) || signatures.some((signature) => start.startsWith(signature));
}
