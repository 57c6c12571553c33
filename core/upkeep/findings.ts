/**
 * What can be done about a finding for many at once: `write` what is proposed, set a `task`, `tie` two as spouses, give
 * them the `address` of their home, take a tag off (`untag`), or end what is still going on with the dead (`settle`).
 */
export type Remedy = 'write' | 'task' | 'tie' | 'address' | 'untag' | 'settle';

interface Declared {
  /** What is wrong, as a heading. */
  label: string;
  /** When a record is told of, in a sentence. */
  says: string;
  remedy: Remedy;
  /** What the remedy does, as a button says it before a number of records. */
  does: string;
  /** The task that is set where that is the remedy. */
  task?: string;
  /** What has to be typed for the remedy. */
  asks?: string;
}
const declared = <K extends string>(findings: Record<K, Declared>): Readonly<Record<K, Declared>> => findings;

/** Everything that makes records unclean, in the order in which it is shown. */
export const FINDINGS = declared({
  capitals: {
    label: 'Names in capitals or small letters',
    says: 'All letters of a name are capitals, or none is.',
    ...{ remedy: 'write', does: 'Write as names are written' },
  },
  salutation: {
    label: 'Salutations that no longer fit',
    says: 'Written by hand, and the name changed since.',
    ...{ remedy: 'write', does: 'Follow the rules again' },
  },
  nameless: {
    label: 'Nothing to greet them by',
    says: 'Neither first name nor title: a letter begins with the bare last name.',
    ...{ remedy: 'task', does: 'Set a task', task: 'Ask for the first name' },
  },
  'email-slip': {
    label: 'E-mail with a slip',
    says: 'The domain looks like one that many use, mistyped.',
    ...{ remedy: 'write', does: 'Correct' },
  },
  'email-bad': {
    label: 'E-mail that bounces',
    says: 'Marked undeliverable, and still in use.',
    ...{ remedy: 'write', does: 'Keep as former' },
  },
  'address-bad': {
    label: 'No address that mail reaches',
    says: 'Every address is marked undeliverable.',
    ...{ remedy: 'task', does: 'Set a task', task: 'Find a new address' },
  },
  'address-incomplete': {
    label: 'Incomplete addresses',
    says: 'Street, city, state or ZIP is missing; a state that follows from the ZIP is proposed.',
    ...{ remedy: 'write', does: 'Fill in' },
  },
  'zip-state': {
    label: 'ZIP against state',
    says: 'The ZIP lies in another state.',
    ...{ remedy: 'write', does: 'Take the state of the ZIP' },
  },
  'address-form': {
    label: 'Addresses written otherwise',
    says: 'Capitals, spaces, the state or the ZIP are not as the post writes them.',
    ...{ remedy: 'write', does: 'Write as the post does' },
  },
  'phone-area': {
    label: 'Telephones without area code',
    says: 'Seven digits alone.',
    ...{ remedy: 'write', does: 'Put the area code before', asks: 'Area code' },
  },
  birthday: {
    label: 'Birthdays to come',
    says: 'Born in the future; a hundred years earlier is proposed.',
    ...{ remedy: 'write', does: 'Put back a hundred years' },
  },
  deceased: {
    label: 'Deceased, and still going on',
    says: 'Something is still planned with somebody who died: a recurring gift, an open pledge, a task, a message.',
    ...{ remedy: 'settle', does: 'End what goes on' },
  },
  couple: {
    label: 'Two in a home, not tied',
    says: 'Two people share a home, and nothing says what they are to each other.',
    ...{ remedy: 'tie', does: 'Tie as spouses' },
  },
  'home-address': {
    label: 'One home, two addresses',
    says: 'A member of a household has another address than the home.',
    ...{ remedy: 'address', does: 'Give the address of the home' },
  },
  empty: {
    label: 'Empty records',
    says: 'A name and nothing else: no way to reach them, and nothing hangs on the record.',
    ...{ remedy: 'write', does: 'Move to the trash' },
  },
  tag: {
    label: 'Tags used once',
    says: 'Only one record has the tag.',
    ...{ remedy: 'untag', does: 'Delete the tag' },
  },
  field: {
    label: 'Values outside their list',
    says: 'A field with choices holds something that is none of them.',
    ...{ remedy: 'write', does: 'Take the nearest choice' },
  },
});
export type Finding = keyof typeof FINDINGS;
export const FINDING_NAMES = Object.keys(FINDINGS) as [Finding, ...Finding[]];

type Columns = Readonly<Record<string, string | number | null>>;

/** Something unclean about a record. */
export interface Fault {
  finding: Finding;
  supporterId: number;
  /** The row that it is of. */
  table: 'supporter' | 'email' | 'phone' | 'address' | 'supporter_field' | 'supporter_tag' | 'task';
  row: number;
  /** What is there, and what is proposed in its place, as they are shown; null where nothing follows from the record. */
  was: string;
  becomes: string | null;
  /** Columns of the row as they were read, and as they are proposed. A remedy writes them only where they still are so. */
  from: Columns;
  to: Columns | null;
}
