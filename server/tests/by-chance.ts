import { draftOf, Supporter } from '@tallystick/contract/supporters';
import { FINDING_NAMES } from '@tallystick/core/upkeep';
import type { Chance } from '../../demo/random.ts';
import type { Answer, TestApp } from './support.ts';

/* Whatever people do all day, done by chance: it makes a world in which everything hangs together somehow. */

type Act = (chance: Chance) => Promise<Answer>;

/** What was to be acted on was never made, or its making was taken back. */
class Gone extends Error {}

/** The names of the acts, each as often as it is likely. */
export const ORDER = Object.entries({
  arrive: 1,
  record: 6,
  edit: 4,
  correct: 4,
  pledge: 2,
  writeOff: 1,
  reschedule: 1,
  raise: 2,
  put: 2,
  takeOff: 1,
  move: 2,
  stock: 1,
  sheet: 1,
  note: 1,
  balance: 2,
  deposit: 1,
  close: 1,
  issue: 3,
  voidReceipt: 1,
  tie: 2,
  untie: 1,
  change: 3,
  mergeTags: 1,
  merge: 1,
  soil: 2,
  mend: 2,
  die: 1,
  settleIn: 1,
  part: 1,
  join: 1,
  mailBack: 1,
  trash: 2,
  undo: 8,
}).flatMap(([name, weight]) => Array.from({ length: weight }, () => name)) as [string, ...string[]];

/** The acts that make what others need: homes of several people, gifts, pledges and what pays them, ties, tags, slips. */
export const MAKING = ['arrive', 'record', 'pledge', 'put', 'tie', 'change', 'soil', 'balance', 'issue'];

/** Every act on a server, with what they made. */
export function actsByChance(test: TestApp) {
  /** What was made so far, to go on with. */
  const known = {
    people: [] as number[],
    homes: [] as number[],
    gifts: [] as number[],
    pledges: [] as number[],
    ties: [] as number[],
    revisions: [] as number[],
  };
  const any = (chance: Chance, list: readonly number[]): number =>
    list[chance.whole(0, Math.max(0, list.length - 1))] ?? 0;

  const post = (path: string, body: unknown, as?: 'admin'): Promise<Answer> =>
    test.call('POST', path, body, as ? { as } : {});
  const got = async (path: string): Promise<Record<string, unknown>> => (await test.call('GET', path)).body;
  const recordOf = async (id: number): Promise<Supporter> => {
    const { status, body, text } = await test.call('GET', `/supporters/${id}`);
    if (status === 404) throw new Gone(text);
    return Supporter.parse(body);
  };
  const day = (chance: Chance): string =>
    `2026-${chance.pick(['08', '09', '10', '11'])}-${String(chance.whole(1, 20)).padStart(2, '0')}`;
  const parts = (chance: Chance, cents: number) =>
    chance.happens(0.3) && cents > 100
      ? [
          { cents: 100, fundId: 1 },
          { cents: cents - 100, fundId: 2 },
        ]
      : [];
  const draft = (chance: Chance) => {
    const [cents, supporterId] = [chance.whole(1, 90) * 50, any(chance, known.people)];
    const other = any(chance, known.people);
    const method = chance.pick(['cheque', 'cash', 'card'] as const);
    return {
      ...{ supporterId, cents, date: day(chance), fundId: chance.whole(1, 2), method },
      feeCents: method === 'card' ? chance.whole(0, 40) : 0,
      parts: parts(chance, cents),
      credits: chance.happens(0.2) && other !== supporterId ? [{ supporterId: other, kind: 'peer', cents: 50 }] : [],
    };
  };
  const batches = async (state: string): Promise<{ id: number; version: number }[]> =>
    (await got(`/batches?state=${state}`))['items'] as { id: number; version: number }[];

  const ACTS: Record<string, Act> = {
    /** Somebody new, in a home that may be new, too. */
    async arrive(chance) {
      if (chance.happens(0.2)) {
        const home = await post('/supporters', { kind: 'household', organization: 'A Home By Chance' });
        if (home.status === 200) known.homes.push(Number(home.body['id']));
      }
      const [householdId, last] = [any(chance, known.homes), `Comer${known.people.length}`];
      const answer = await post('/supporters', { kind: 'person', first: 'New', last, householdId });
      if (answer.status === 200) known.people.push(Number(answer.body['id']));
      return answer;
    },
    record: async (chance) => {
      const pays = chance.happens(0.3)
        ? { pays: { pledgeId: any(chance, known.pledges), over: 'beyond', byOther: true } }
        : {};
      const answer = await post('/gifts', { ...draft(chance), ...pays });
      if (answer.status === 200) known.gifts.push(Number(answer.body['id']));
      return answer;
    },
    async edit(chance) {
      const id = any(chance, known.gifts);
      const { version } = await got(`/gifts/${id}`);
      return test.call('PUT', `/gifts/${id}`, { ...draft(chance), version });
    },
    async correct(chance) {
      const id = any(chance, known.gifts);
      const { version, cents } = await got(`/gifts/${id}`);
      const { supporterId, date, method, fundId, ...other } = draft(chance);
      const whole = [{ cents: other.cents, fundId }];
      const adjusted = {
        supporterId,
        date,
        method,
        cents: other.cents,
        parts: other.parts.length > 0 ? other.parts : whole,
      };
      const kind = chance.pick(['adjust', 'refund', 'void', 'returned']);
      const back =
        kind === 'refund' && chance.happens(0.6) ? { cents: Math.max(1, Math.floor(Number(cents) / 2)) } : {};
      return post(`/gifts/${id}/corrections`, {
        kind,
        version,
        reason: 'By chance',
        ...(kind === 'adjust' ? adjusted : back),
      });
    },
    async pledge(chance) {
      const cents = chance.whole(2, 40) * 100;
      const schedule = { start: day(chance), every: 'month' };
      const plan = chance.happens(0.5)
        ? { kind: 'count', schedule, count: chance.whole(1, 4) }
        : { kind: 'each', schedule, each: 500 };
      const answer = await post('/pledges', {
        ...{ supporterId: any(chance, known.people), cents, fundId: 1, plan },
        pledgedOn: day(chance),
      });
      if (answer.status === 200) known.pledges.push(Number(answer.body['id']));
      return answer;
    },
    async raise(chance) {
      const id = any(chance, known.pledges);
      const { version, fundId, standing } = await got(`/pledges/${id}`);
      const { pledged } = (standing ?? {}) as { pledged?: number };
      const cents = (pledged ?? 0) + chance.whole(-5, 8) * 100;
      return test.call('PUT', `/pledges/${id}`, {
        ...{ version, cents, pledgedOn: day(chance), fundId: chance.happens(0.3) ? 2 : fundId },
      });
    },
    put: (chance) =>
      post(`/gifts/${any(chance, known.gifts)}/pledge`, {
        ...{ pledgeId: any(chance, known.pledges), byOther: true, over: chance.pick(['beyond', 'raise']) },
      }),
    async takeOff(chance) {
      const pledge = await got(`/pledges/${any(chance, known.pledges)}`);
      const [paid] = (pledge['payments'] ?? []) as { giftId: number }[];
      return post(`/gifts/${paid?.giftId ?? 0}/pledge/off`, { pledgeId: pledge['id'] ?? 1 });
    },
    async move(chance) {
      const id = any(chance, known.gifts);
      const { version } = await got(`/gifts/${id}`);
      const waiting = (await batches('waiting')).map((batch) => batch.id);
      const batchId = chance.happens(0.2) ? null : any(chance, waiting);
      return post(`/gifts/${id}/batch`, { version, batchId, name: 'By chance' });
    },
    async stock(chance) {
      const shares = { kind: 'stock', symbol: 'LMP', shares: String(chance.whole(1, 9)), meanPrice: '12.5' };
      const sold = chance.happens(0.6) ? { soldOn: day(chance), proceedsCents: chance.whole(1, 90) * 100 } : {};
      const cents = Number(shares.shares) * 1250;
      const answer = await post('/gifts', {
        ...{ ...draft(chance), cents, parts: [], credits: [], feeCents: 0, method: 'stock' },
        details: { ...shares, ...sold },
      });
      if (answer.status === 200) known.gifts.push(Number(answer.body['id']));
      return answer;
    },
    async sheet(chance) {
      const columns = ['wholeName', 'amount', 'method'].map((field) => ({ field, width: 120 }));
      const { body } = await post('/sheets', { name: 'By chance', columns });
      const id = Number(body['id']);
      const rows = Array.from({ length: chance.whole(1, 3) }, (_, place) => ({
        ...{ key: `row-${place}`, place, supporterId: any(chance, known.people), change: [] },
        cells: { wholeName: 'S', amount: String(chance.whole(1, 90)), method: 'cash' },
      }));
      await test.call('PUT', `/sheets/${id}/rows`, { rows });
      return post(`/sheets/${id}/post`, {});
    },
    note: async (chance) => {
      const id = any(chance, known.gifts);
      const { version } = await got(`/gifts/${id}`);
      return test.call('PUT', `/gifts/${id}/note`, { version, note: 'By chance' });
    },
    async writeOff(chance) {
      const id = any(chance, known.pledges);
      const { version } = await got(`/pledges/${id}`);
      return post(`/pledges/${id}/write-off`, {
        version,
        cents: chance.whole(1, 9) * 100,
        date: '2026-11-20',
        reason: 'By chance',
      });
    },
    async reschedule(chance) {
      const id = any(chance, known.pledges);
      const { version } = await got(`/pledges/${id}`);
      const plan = { kind: 'count', schedule: { start: day(chance), every: 'week' }, count: chance.whole(1, 3) };
      return post(`/pledges/${id}/reschedule`, { version, plan });
    },
    async balance(chance) {
      const [batch] = await batches('open');
      return post(`/batches/${batch?.id ?? 0}/balance`, { version: batch?.version ?? 0, open: chance.happens(0.1) });
    },
    async deposit() {
      const batchIds = (await batches('balanced')).slice(0, 2).map((batch) => batch.id);
      return post('/deposits', {
        name: 'By chance',
        date: '2026-11-23',
        batchIds: batchIds.length > 0 ? batchIds : [1],
      });
    },
    close: (chance) => {
      const through = chance.pick([null, null, '2026-08-31', '2026-09-30']);
      return test.call('PUT', '/ledger/closed', { through }, { as: 'admin' });
    },
    issue: (chance) =>
      post('/thanks/issue', { letterId: 1, giftIds: [any(chance, known.gifts), any(chance, known.gifts)] }),
    async voidReceipt(chance) {
      const { receiptId } = await got(`/gifts/${any(chance, known.gifts)}`);
      return post(`/receipts/${Number(receiptId ?? 0) || 1}/void`, { reason: 'By chance' });
    },
    async tie(chance) {
      const kinds = (await got('/relation-kinds'))['items'] as { id: number; name: string }[];
      const kindId = kinds.find((kind) => kind.name === chance.pick(['spouse', 'parent']))?.id ?? 0;
      const [fromId, toId] = [any(chance, known.people), any(chance, known.people)];
      const answer = await post('/relations', { fromId, toId, kindId, title: '', note: '', since: null, until: null });
      if (answer.status === 200) known.ties.push(Number(answer.body['id']));
      return answer;
    },
    untie: (chance) => test.call('DELETE', `/relations/${any(chance, known.ties)}`),
    async change(chance) {
      const id = any(chance, chance.happens(0.4) ? known.homes : known.people);
      const record = await recordOf(id);
      const tags = [chance.pick(['Café', 'Cafe', 'Board', 'board', 'New'])];
      const householdId = chance.happens(0.4) ? any(chance, known.homes) : undefined;
      const over = {
        tags,
        nickname: `N${chance.whole(1, 99)}`,
        ...(record.kind === 'person' && householdId ? { householdId } : {}),
      };
      return test.call('PUT', `/supporters/${id}`, { draft: { ...draftOf(record), ...over }, version: record.version });
    },
    async mergeTags(chance) {
      const { tags } = await recordOf(any(chance, known.people));
      const others = (await recordOf(any(chance, known.people))).tags;
      return post(`/tags/${tags[0]?.id ?? 1}/merge`, { intoId: others[0]?.id ?? 1 });
    },
    async merge(chance) {
      const [one, other] = [any(chance, known.people), any(chance, known.people)];
      const [stays, goes] = [await recordOf(one), await recordOf(other)];
      const records = [stays, goes].map(({ id, version }) => ({ id, version }));
      return post('/duplicates/merge', { into: stays.id, records });
    },
    /** What somebody typed in haste. */
    async soil(chance) {
      const record = await recordOf(any(chance, known.people));
      const place = { street: `${chance.whole(1, 9)} ELM STREET`, city: 'Elko', region: chance.pick(['NV', 'UT', '']) };
      const over = chance.pick<Record<string, unknown>>([
        { last: record.last.toUpperCase() },
        { emails: [{ address: `p${chance.whole(1, 99)}@example.con`, label: 'home', preferred: true }] },
        { addresses: [{ ...place, postal: '89801', country: '', label: 'home', preferred: true }] },
        { birthday: '2059-03-14', phones: [{ number: '738-0142', label: 'home', preferred: true }] },
      ]);
      const draft = { ...draftOf(record), ...over };
      return test.call('PUT', `/supporters/${record.id}`, { draft, version: record.version });
    },
    async mend(chance) {
      const finding = chance.pick(FINDING_NAMES);
      const task = { title: 'To be looked at', due: '2026-12-24', ownerId: null };
      const { items } = (await test.call('GET', `/upkeep/${finding}?limit=5`)).body as { items: { id: number }[] };
      const answer = await post(`/upkeep/${finding}/mend`, { rows: items.map(({ id }) => id), value: '775', task });
      // There may be nothing to mend; that is no deed.
      return answer.body['revision'] === null ? { ...answer, status: 404 } : answer;
    },
    die: (chance) => post('/upkeep/died', { id: any(chance, known.people), on: day(chance), source: 'a call' }),
    async settleIn(chance) {
      const id = any(chance, known.people);
      const { people } = (await got(`/upkeep/home/${id}`)) as { people: { id: number; same: boolean }[] };
      const place = {
        street: `${chance.whole(1, 40)} Fir Rd`,
        city: 'Reno',
        region: 'NV',
        postal: '89501',
        country: '',
      };
      const ids = (people ?? []).filter(({ same }) => same).map((one) => one.id);
      return post('/upkeep/moved', { id, ids: ids.length > 0 ? ids : [id], place, from: day(chance) });
    },
    async part(chance) {
      const homeId = any(chance, known.homes);
      const { members } = await recordOf(homeId);
      const credit = chance.pick(['home', 'each']);
      return post('/upkeep/parting', {
        homeId,
        leaving: members.slice(0, 1).map(({ id }) => id),
        on: day(chance),
        credit,
      });
    },
    join: (chance) =>
      post('/upkeep/joining', {
        ...{ people: [any(chance, known.people), any(chance, known.people)], on: day(chance) },
        homeId: any(chance, known.homes),
      }),
    mailBack: (chance) =>
      post('/upkeep/returned', {
        ...{ ids: [any(chance, known.people)], on: day(chance), reason: 'moved' },
        task: { title: 'Find a new address', due: '2026-12-24', ownerId: null },
      }),
    trash: (chance) =>
      post('/supporters/acts', {
        selection: { kind: 'ids', ids: [any(chance, chance.happens(0.5) ? known.homes : known.people)] },
        act: { do: chance.happens(0.4) ? 'trash' : 'restore' },
      }),
    undo: (chance) => post(`/changes/${any(chance, known.revisions.slice(-30))}/undo`, {}, 'admin'),
  };

  /** Does one thing; what cannot be is refused in words, and nothing breaks. */
  async function act(name: string, chance: Chance, done: Map<string, number>): Promise<void> {
    const answer = await ACTS[name]?.(chance).catch((error: unknown) => {
      if (error instanceof Gone) return undefined;
      throw error;
    });
    if (!answer) return;
    if (![200, 400, 404, 409].includes(answer.status)) throw new Error(`${name}: ${answer.status} ${answer.text}`);
    if (answer.status !== 200) return;
    done.set(name, (done.get(name) ?? 0) + 1);
    if (typeof answer.body['revision'] === 'number') known.revisions.push(answer.body['revision']);
  }

  return { known, acts: Object.keys(ACTS), act };
}
