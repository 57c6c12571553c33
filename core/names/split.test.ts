import { describe, expect, it } from 'vitest';
import { looksLikeOrganization, properCase, splitName, splitPeople } from './split.ts';

/** A full name, then: prefix | first | middle | last | suffix | nickname. */
const NAMES: [string, string][] = [
  ['Ana Cruz', '|Ana||Cruz||'],
  ['Dr. Ana-María de la Cruz-Smith, Jr.', 'Dr.|Ana-María||de la Cruz-Smith|Jr.|'],
  ['SMITH, JOHN Q', '|John|Q|Smith||'],
  ['smith, john q.', '|John|Q.|Smith||'],
  ['John Q. Public', '|John|Q.|Public||'],
  ['Mr. John Smith', 'Mr.|John||Smith||'],
  ['Mrs. Smith', 'Mrs.|||Smith||'],
  ['Cher', '|Cher||||'],
  ['', '|||||'],
  ['   Ana    Cruz  ', '|Ana||Cruz||'],
  ['Rev. Dr. Oren Eklund', 'Rev. Dr.|Oren||Eklund||'],
  ['The Rev. Oren Eklund', 'The Rev.|Oren||Eklund||'],
  ['The Honorable Ruth Fairweather', 'The Honorable|Ruth||Fairweather||'],
  ['The Most Rev. Paul Osei', 'The Most Rev.|Paul||Osei||'],
  ['Lt. Col. Mary Beth Adair', 'Lt. Col.|Mary|Beth|Adair||'],
  ['Prof. Dr. Jürgen von der Heide', 'Prof. Dr.|Jürgen||von der Heide||'],
  ['Sra. Lucía Ortega y Montes', 'Sra.|Lucía||Ortega y Montes||'],
  ['Santiago Ramón y Cajal', '|Santiago||Ramón y Cajal||'],
  ['William "Bill" O\'Neill', "|William||O'Neill||Bill"],
  ['William (Bill) Turner III', '|William||Turner|III|Bill'],
  ['William “Bill” Turner', '|William||Turner||Bill'],
  ["Margaret 'Peg' Dunmore", '|Margaret||Dunmore||Peg'],
  ['Turner, William (Bill), III', '|William||Turner|III|Bill'],
  ['John Smith Jr.', '|John||Smith|Jr.|'],
  ['John Smith, Jr', '|John||Smith|Jr.|'],
  ['John Smith JR', '|John||Smith|Jr.|'],
  ['SMITH JR, JOHN', '|John||Smith|Jr.|'],
  ['Smith, John, Jr.', '|John||Smith|Jr.|'],
  ['Smith, John Jr.', '|John||Smith|Jr.|'],
  ['John Smith Sr.', '|John||Smith|Sr.|'],
  ['John Smith III', '|John||Smith|III|'],
  ['John Quincy Adams Ward IV', '|John|Quincy Adams|Ward|IV|'],
  ['John Smith 2nd', '|John||Smith|2nd|'],
  ['John Henry Smith V', '|John|Henry|Smith|V|'],
  ['Gloria V.', '|Gloria||V.||'],
  ['Jane Doe, PhD', '|Jane||Doe|Ph.D.|'],
  ['Jane Doe Ph.D.', '|Jane||Doe|Ph.D.|'],
  ['Jane Doe, M.D., Ph.D.', '|Jane||Doe|M.D., Ph.D.|'],
  ['Jane Doe MD', '|Jane||Doe|M.D.|'],
  ['DOE, JANE MD', '|Jane||Doe|M.D.|'],
  ['Jane Doe, Esq.', '|Jane||Doe|Esq.|'],
  ['Dr Jane Doe DDS', 'Dr|Jane||Doe|D.D.S.|'],
  ['Capt. James Yellowhorse (Ret.)', 'Capt.|James||Yellowhorse|Ret.|'],
  ['Jack Ma', '|Jack||Ma||'],
  ['Linh Do', '|Linh||Do||'],
  ['Ludwig van Beethoven', '|Ludwig||van Beethoven||'],
  ['Van Morrison', '|Van||Morrison||'],
  ['Vincent Willem van Gogh', '|Vincent|Willem|van Gogh||'],
  ['Oscar de la Renta', '|Oscar||de la Renta||'],
  ['OSCAR DE LA RENTA', '|Oscar||de la Renta||'],
  ['de la Renta, Oscar', '|Oscar||de la Renta||'],
  ['Van Dyke, Dick', '|Dick||Van Dyke||'],
  ['Catarina dos Santos', '|Catarina||dos Santos||'],
  ['João da Silva e Souza', '|João||da Silva e Souza||'],
  ['Leonardo di Caprio', '|Leonardo||di Caprio||'],
  ['Ali ibn Yusuf', '|Ali||ibn Yusuf||'],
  ['Mohammed bin Rashid Al Maktoum', '|Mohammed|bin Rashid|Al Maktoum||'],
  ['Rosa del Carmen Vega', '|Rosa|del Carmen|Vega||'],
  ["Gerard 't Hooft", "|Gerard||'t Hooft||"],
  ['Dylan ap Rhys', '|Dylan||ap Rhys||'],
  ['Eva St. Clair', '|Eva||St. Clair||'],
  ['Mr. Van Buren', 'Mr.|||Van Buren||'],
  ['Mary-Jo Bell', '|Mary-Jo||Bell||'],
  ['Mary Jo Bell', '|Mary|Jo|Bell||'],
  ['J. R. R. Tolliver', '|J.|R. R.|Tolliver||'],
  ['J.R.R. Tolliver', '|J.R.R.||Tolliver||'],
  ['T S Ellory', '|T|S|Ellory||'],
  ['E. Annie Prouse', '|E.|Annie|Prouse||'],
  ['Harry S Trumble', '|Harry|S|Trumble||'],
  ['Anna E Bergstrom', '|Anna|E|Bergstrom||'],
  ['ANNA E BERGSTROM', '|Anna|E|Bergstrom||'],
  ["SEAN O'CONNOR", "|Sean||O'Connor||"],
  ['SEAN O’CONNOR', '|Sean||O’Connor||'],
  ['ANGUS MCDONALD', '|Angus||McDonald||'],
  ['angus mcdonald', '|Angus||McDonald||'],
  ['MACHADO, RITA', '|Rita||Machado||'],
  ['ANNE-MARIE SMITH-JONES', '|Anne-Marie||Smith-Jones||'],
  ['Anne Smith (née Hall)', '|Anne||Smith||'],
  ['Nguyễn Văn An', '|Nguyễn|Văn|An||'],
  ['Õunapuu, Kärt', '|Kärt||Õunapuu||'],
  ['李 小龍', '|李||小龍||'],
  ['علي حسن', '|علي||حسن||'],
  ['Rabbi Dov Feldstein', 'Rabbi|Dov||Feldstein||'],
  ['Sister Agnes', 'Sister|Agnes||||'],
  ['Mme. Colette Dufour', 'Mme.|Colette||Dufour||'],
  ['Sen. Priya Raghavan', 'Sen.|Priya||Raghavan||'],
  ['MR JOHN SMITH', 'Mr|John||Smith||'],
  ['Smith, Dr. John', 'Dr.|John||Smith||'],
  ['Smith, Mrs.', 'Mrs.|||Smith||'],
  ['Judge Judy Harper', 'Judge|Judy||Harper||'],
  ['X Æ Holt', '|X|Æ|Holt||'],
  ["D'Angelo Russ", "|D'Angelo||Russ||"],
  ["Mary d'Angelo", "|Mary||d'Angelo||"],
  ['🌟 Star', '|🌟||Star||'],
];

describe('splitName', () => {
  it('is tried on at least 80 hard names', () => expect(NAMES.length).toBeGreaterThanOrEqual(80));
  it.each(NAMES)('%s', (text, parts) => {
    const { prefix, first, middle, last, suffix, nickname } = splitName(text);
    expect([prefix, first, middle, last, suffix, nickname].join('|')).toBe(parts);
  });
});

describe('splitPeople', () => {
  it.each<[string, string[]]>([
    ['Ana Cruz', ['Ana Cruz']],
    ['Mr. and Mrs. John Smith', ['Mr. John Smith', 'Mrs. Smith']],
    ['John and Jane Smith', ['John Smith', 'Jane Smith']],
    ['John & Jane Smith', ['John Smith', 'Jane Smith']],
    ['John Q. and Jane Smith', ['John Q. Smith', 'Jane Smith']],
    ['SMITH, JOHN & JANE', ['John Smith', 'Jane Smith']],
    ['Dr. Ana Cruz and Mr. Lee Park', ['Dr. Ana Cruz', 'Mr. Lee Park']],
    ['Mr. John and Dr. Jane Smith', ['Mr. John Smith', 'Dr. Jane Smith']],
    ['Sandy Anderson', ['Sandy Anderson']],
  ])('%s', (text, people) => {
    const names = splitPeople(text).map(({ prefix, first, middle, last }) =>
      [prefix, first, middle, last].filter(Boolean).join(' '),
    );
    expect(names).toEqual(people);
  });
});

describe('properCase', () => {
  it.each([
    ["O'BRIEN", "O'Brien"],
    ['VAN DER BERG', 'van der Berg'],
    ['MCNAIR-HALL', 'McNair-Hall'],
    ['ÉLODIE', 'Élodie'],
    ["ST. MARY'S", "St. Mary's"],
  ])('%s', (text, cased) => expect(properCase(text)).toBe(cased));
});

describe('looksLikeOrganization', () => {
  it.each(['Cobalt Ridge Bakery', 'Lowell Family Foundation', 'Tansy Creek Unified School District', 'Farr & Co.'])(
    '%s is one',
    (text) => expect(looksLikeOrganization(text)).toBe(true),
  );
  it.each(['Ana Cruz', 'Church', 'Bakerly, Tom', 'Clubb, Rose'])('%s is none', (text) =>
    expect(looksLikeOrganization(text)).toBe(false),
  );
});
