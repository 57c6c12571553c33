import './guards.ts';
import * as contract from '@tallystick/contract/deposits';
import { sendCsv } from '../platform/csv.ts';
import type { Http } from '../platform/http.ts';
import { Deposits } from './deposits.service.ts';
import { Ledger } from './ledger.service.ts';
import { typedMoney } from '@tallystick/core/money';
import { area } from '../area.ts';
import { settingsArea } from '../settings/index.ts';

export { depositSums } from './as-deposited.ts';
export { DepositTable } from './deposits.service.ts';
export { JournalTable } from './journal.ts';
export { AccountTable } from './ledger.service.ts';

export function serveDeposits(http: Http, deposits: Deposits, ledger: Ledger): void {
  http.on(contract.listBatches, ({ query }) => deposits.batches(query.state, query));
  http.on(contract.balanceBatch, async ({ actor, params, body }) => {
    const { revision } = await deposits.balance(actor, params.id, body);
    return { revision };
  });
  http.on(contract.listDeposits, ({ query }) => deposits.list(query));
  http.on(contract.makeDeposit, async ({ actor, body }) => {
    const { revision, result } = await deposits.make(actor, body);
    return { revision, ...result };
  });
  http.on(contract.depositSlip, async ({ params, response }) => {
    const { name, pdf } = await deposits.slip(params.id);
    response.type('application/pdf').attachment(`${name}.pdf`).send(pdf);
    return undefined;
  });
  http.on(contract.getLedger, ({ query }) => ledger.lines(query.from, query.to));
  http.on(contract.exportLedger, async ({ query, response }) => {
    const { lines } = await ledger.lines(query.from, query.to);
    const plain = (cents: number): string => (cents === 0 ? '' : typedMoney(cents));
    const rows = lines.map((line) => [line.date, line.account, plain(line.debit), plain(line.credit), line.fund]);
    return sendCsv(
      response,
      `ledger-${query.from}-${query.to}.csv`,
      ['Date', 'Account', 'Debit', 'Credit', 'Fund'],
      [rows],
    );
  });
  http.on(contract.listAccounts, async () => ({ items: await ledger.accounts() }));
  http.on(contract.setAccounts, async ({ actor, body }) => {
    const { revision } = await ledger.setAccounts(actor, body.items);
    return { revision };
  });
  http.on(contract.closePeriod, async ({ actor, body }) => {
    const { revision } = await ledger.close(actor, body.through);
    return { revision };
  });
}

/** Batches, deposits and the ledger. */
export const depositsArea = area('deposits', ({ source, changes, http }, of) => {
  const { settings } = of(settingsArea);
  const deposits = new Deposits(source, changes, settings);
  const ledger = new Ledger(source, changes, settings);
  serveDeposits(http, deposits, ledger);
  return { deposits, ledger };
});
