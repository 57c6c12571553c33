import { Chance } from '@tallystick/demo/random';
import type { Known } from '@tallystick/core/duplicates';

/*
 * Records of people with known truth, to measure how well doubles are found: families, namesakes, neighbours, parents
 * and children of one name, and a share of records that are another writing of somebody, each with one kind of error.
 * It knows nothing of how records are compared.
 */

const GIVEN: readonly (readonly [string, readonly string[]])[] = [
  ['William', ['Bill', 'Will']],
  ['Robert', ['Bob', 'Rob']],
  ['Richard', ['Dick', 'Rick']],
  ['James', ['Jim']],
  ['John', ['Jack']],
  ['Joseph', ['Joe']],
  ['Charles', ['Chuck', 'Charlie']],
  ['Thomas', ['Tom']],
  ['Edward', ['Ed', 'Ted']],
  ['Michael', ['Mike']],
  ['David', ['Dave']],
  ['Daniel', ['Dan']],
  ['Andrew', ['Andy', 'Drew']],
  ['Anthony', ['Tony']],
  ['Christopher', ['Chris']],
  ['Benjamin', ['Ben']],
  ['Samuel', ['Sam']],
  ['Stephen', ['Steve']],
  ['Kenneth', ['Ken']],
  ['Lawrence', ['Larry']],
  ['Elizabeth', ['Liz', 'Beth', 'Betty']],
  ['Margaret', ['Peggy', 'Maggie']],
  ['Katherine', ['Kate', 'Kathy']],
  ['Patricia', ['Pat', 'Trish']],
  ['Susan', ['Sue']],
  ['Barbara', ['Barb']],
  ['Jennifer', ['Jen', 'Jenny']],
  ['Deborah', ['Debbie', 'Deb']],
  ['Rebecca', ['Becky']],
  ['Victoria', ['Vicky']],
  ['Dorothy', ['Dot']],
  ['Pamela', ['Pam']],
];
const [ONSETS, NUCLEI, CODAS] = [
  'b br c ch d dr f fl g gr h j k kl l m n p pr r s st t th tr v w y z'.split(' '),
  'a e i o u ai ea ee ie oa ou'.split(' '),
  'n r l s t m ck nd rt x sh ld ng'.split(' '),
];
const ENDINGS = ['son', 'man', 'berg', 'well', 'ton', 'ley', 'er', 'ez', 'ski', 'o', 'a', 'ova', 'field', 'wood', ''];
const STREETS = ['Street', 'Avenue', 'Road', 'Drive', 'Lane', 'Court', 'Place', 'Boulevard'];
const SHORT: Readonly<Record<string, string>> = {
  ...{ Street: 'St', Avenue: 'Ave.', Road: 'Rd', Drive: 'Dr', Lane: 'Ln', Court: 'Ct', Place: 'Pl', Boulevard: 'Blvd' },
};
const DOMAINS = ['example.org', 'example.com', 'example.net', 'mail.example.org', 'post.example.com'];
const ACCENTS: Readonly<Record<string, string>> = { a: 'á', e: 'é', i: 'í', o: 'ö', u: 'ü' };

const large = (word: string): string => word.slice(0, 1).toUpperCase() + word.slice(1);

/** Words that are met as often as names are: a few very often, most seldom. */
class Words {
  private readonly made: string[] = [];
  constructor(
    private readonly chance: Chance,
    many: number,
    make: () => string,
    private readonly bend: number,
  ) {
    const seen = new Set<string>();
    while (this.made.length < many) {
      const word = make();
      if (seen.has(word)) continue;
      seen.add(word);
      this.made.push(word);
    }
  }
  pick(): string {
    return this.made[Math.floor(this.made.length * this.chance.next() ** this.bend)] ?? this.made[0] ?? '';
  }
}

/** What a record is another writing of, and with what error; null for who is here once. */
export interface Truth {
  of: number;
  error: string;
}
export interface Made {
  records: Known[];
  /** By the place of the record. */
  truth: (Truth | null)[];
}

type Person = Known & {
  emails: string[];
  phones: string[];
  addresses: { street: string; postal: string; city: string }[];
};

/** Makes so many records, of which a share are other writings of others. */
export function makeDoubles(many: number, share: number, seed = 1): Made {
  const chance = new Chance(seed);
  const any = <T>(list: readonly T[]): T => list[chance.whole(0, list.length - 1)] as T;
  const syllable = (): string => any(ONSETS) + any(NUCLEI) + (chance.happens(0.5) ? any(CODAS) : '');
  const lasts = new Words(
    chance,
    12_000,
    () => large(syllable() + (chance.happens(0.4) ? syllable() : '') + any(ENDINGS)),
    2.2,
  );
  const rareFirsts = new Words(
    chance,
    900,
    () => large(syllable() + any(NUCLEI).slice(0, 1) + any(['', 'n', 'la', 'ra', 'th'])),
    1.6,
  );
  const streets = new Words(chance, 4_000, () => `${large(syllable() + any(['', syllable()]))} ${any(STREETS)}`, 1.5);
  const places = Array.from({ length: 600 }, (_, at) => ({
    city: large(syllable() + syllable()),
    postal: String(89_000 + at),
  }));
  const firstName = (): string => (chance.happens(0.55) ? any(GIVEN)[0] : rareFirsts.pick());
  const digits = (count: number): string => Array.from({ length: count }, () => chance.whole(0, 9)).join('');
  const phone = (): string => `(${any(['775', '702', '801', '208'])}) ${chance.whole(200, 999)}-${digits(4)}`;
  const birthday = (from: number, to: number): string => {
    const day = `${String(chance.whole(1, 12)).padStart(2, '0')}-${String(chance.whole(1, 28)).padStart(2, '0')}`;
    return chance.happens(0.15) ? `--${day}` : `${chance.whole(from, to)}-${day}`;
  };
  const home = () => {
    const { city, postal } = any(places);
    const unit = chance.happens(0.12) ? ` Apt ${chance.whole(1, 60)}` : '';
    return { street: `${chance.whole(1, 9_900)} ${streets.pick()}${unit}`, city, postal };
  };
  const taken = new Set<string>();
  /** A mailbox of their own, since no two people get the same one. */
  const emailOf = (first: string, last: string): string => {
    const box = any([`${first}.${last}`, `${first.slice(0, 1)}${last}`, `${first}${digits(2)}`, `${last}${digits(3)}`]);
    const plain = box.toLowerCase().replace(/[^a-z0-9.]/g, '');
    const domain = any(DOMAINS);
    let address = `${plain}@${domain}`;
    while (taken.has(address)) address = `${plain}${digits(3)}@${domain}`;
    taken.add(address);
    return address;
  };

  const originals = Math.round(many * (1 - share));
  const people: Person[] = [];
  const person = (
    first: string,
    last: string,
    at: ReturnType<typeof home>,
    line: string,
    years: [number, number],
  ): Person => ({
    ...{ id: people.length + 1, kind: 'person', first, last, organization: '', nickname: '', formerLast: '' },
    middle: chance.happens(0.3) ? any([...'ABCDEFGHJKLMNPRSTW']) : '',
    suffix: '',
    birthday: chance.happens(0.35) ? birthday(...years) : '',
    emails: chance.happens(0.7) ? [emailOf(first, last)] : [],
    phones: chance.happens(0.65) ? [chance.happens(0.5) ? line : phone()] : [],
    addresses: chance.happens(0.9) ? [{ ...at }] : [],
    outside: chance.happens(0.1) ? [`portal|${digits(9)}`] : [],
  });
  while (people.length < originals) {
    const [at, line, last] = [home(), phone(), lasts.pick()];
    const add = (one: Person): void => {
      // Nobody without any way to reach them would be told from a namesake by anybody.
      if (one.emails.length + one.phones.length + one.addresses.length === 0) one.addresses = [{ ...at }];
      people.push(one);
    };
    const first = firstName();
    add(person(first, last, at, line, [1935, 1990]));
    const sort = chance.next();
    if (sort < 0.42) {
      const partner = person(firstName(), sort < 0.34 ? last : lasts.pick(), at, line, [1935, 1990]);
      // A couple may have one mailbox.
      const shared = people.at(-1)?.emails[0];
      if (shared && chance.happens(0.2)) partner.emails = [shared];
      if (partner.first !== first) add(partner);
    }
    if (sort < 0.1) {
      const child = person(firstName(), last, at, line, [1991, 2008]);
      if (child.first !== first) add(child);
    } else if (sort > 0.985) {
      // A parent and a child of one name, in one home, told apart by suffix and birthday as records of them are.
      const parent = people.at(-1);
      const child = person(first, last, at, line, [1991, 2008]);
      if (parent) {
        parent.suffix = 'Sr.';
        parent.birthday ||= birthday(1935, 1970);
      }
      child.suffix = 'Jr.';
      child.birthday ||= birthday(1991, 2008);
      add(child);
    }
  }
  people.length = originals;
  people.forEach((one, at) => (one.id = at + 1));

  const slip = (word: string): string => {
    const at = chance.whole(1, Math.max(1, word.length - 2));
    const letter = any([...'abcdefghilmnoprstuvw']);
    return any([
      word.slice(0, at) + word.slice(at + 1),
      word.slice(0, at) + letter + word.slice(at),
      word.slice(0, at) + letter + word.slice(at + 1),
      word.slice(0, at) + word.charAt(at + 1) + word.charAt(at) + word.slice(at + 2),
    ]);
  };
  const ways = ({ emails, phones, addresses }: Person): number =>
    Number(emails.length > 0) + Number(phones.length > 0) + Number(addresses.length > 0);
  /** Each kind of error: what it makes of a record, or false where that has nothing to make it of. */
  const ERRORS: Readonly<Record<string, (one: Person) => boolean>> = {
    'a slip in the first name': (one) => one.first.length > 4 && ((one.first = slip(one.first)), true),
    'a slip in the last name': (one) => one.last.length > 4 && ((one.last = slip(one.last)), true),
    'a nickname': (one) => {
      const short = GIVEN.find(([name]) => name === one.first)?.[1];
      if (!short) return false;
      one.first = any(short);
      return true;
    },
    'first and last name swapped': (one) => {
      [one.first, one.last] = [one.last, one.first];
      return true;
    },
    'an initial for the first name': (one) => ways(one) > 1 && ((one.first = `${one.first.slice(0, 1)}.`), true),
    'a new last name': (one) => {
      if (ways(one) < 2 && one.birthday.length < 10) return false;
      if (chance.happens(0.4)) one.formerLast = one.last;
      one.last = lasts.pick();
      return true;
    },
    'a double last name': (one) => ((one.last = `${one.last}-${lasts.pick()}`), true),
    'moved away': (one) => {
      if (one.addresses.length === 0 || one.emails.length + one.phones.length === 0) return false;
      one.addresses = [home()];
      return true;
    },
    'another e-mail': (one) => {
      if (one.emails.length === 0 || one.addresses.length + one.phones.length === 0) return false;
      one.emails = [emailOf(one.first, one.last)];
      return true;
    },
    'another telephone': (one) => {
      if (one.phones.length === 0 || one.addresses.length + one.emails.length === 0) return false;
      one.phones = [phone()];
      return true;
    },
    'only an e-mail': (one) =>
      one.emails.length > 0 && ((one.phones = []), (one.addresses = []), (one.birthday = ''), true),
    'only an address': (one) =>
      one.addresses.length > 0 && ((one.phones = []), (one.emails = []), (one.birthday = ''), true),
    'only a telephone': (one) =>
      one.phones.length > 0 && ((one.addresses = []), (one.emails = []), (one.birthday = ''), true),
    'capitals and short street words': (one) => {
      const [at] = one.addresses;
      if (!at) return false;
      [one.first, one.last] = [one.first.toUpperCase(), one.last.toUpperCase()];
      at.street = at.street
        .replace(/\w+$|\w+(?= Apt)/, (word) => SHORT[word] ?? word)
        .toUpperCase()
        .replace(' APT ', ' #');
      return true;
    },
    accents: (one) => {
      one.last = one.last.replace(/[aeiou]/, (letter) => ACCENTS[letter] ?? letter);
      return true;
    },
    'the unit left out, and ZIP+4': (one) => {
      const [at] = one.addresses;
      if (!at) return false;
      at.street = at.street.replace(/ Apt .*$/, '');
      at.postal = `${at.postal}-${digits(4)}`;
      return true;
    },
    'a slip in the street': (one) => {
      const [at] = one.addresses;
      if (!at) return false;
      at.street = at.street.replace(/[A-Z][a-z]{4,}/, slip);
      return true;
    },
    'telephone and e-mail as others write them': (one) => {
      if (one.phones.length + one.emails.length === 0) return false;
      one.phones = one.phones.map((text) => `+1 ${text.replace(/\D/g, '.')}`.replace(/\.+/g, '.'));
      one.emails = one.emails.map((text) => text.replace('@', `+${any(['news', 'gifts'])}@`).toUpperCase());
      return true;
    },
    'several at once': (one) => {
      if (one.emails.length === 0 || one.last.length < 5) return false;
      one.last = slip(one.last);
      one.addresses = [home()];
      one.birthday = '';
      return true;
    },
  };
  const kinds = Object.keys(ERRORS);
  const records: Known[] = [...people];
  const truth: (Truth | null)[] = people.map(() => null);
  for (let turn = 0; records.length < many; turn++) {
    const origin = any(people);
    const error = kinds[turn % kinds.length] ?? '';
    const double: Person = { ...structuredClone(origin), id: records.length + 1, outside: [] };
    if (!ERRORS[error]?.(double)) {
      // Another person for the same kind, so that there are as many of each.
      turn--;
      continue;
    }
    records.push(double);
    truth.push({ of: origin.id, error });
  }
  return { records, truth };
}
