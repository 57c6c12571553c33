import * as contract from '@tallystick/contract/upkeep';
import { area } from '../area.ts';
import { jobKind } from '../platform/job-queue.ts';
import { settingsArea } from '../settings/index.ts';
import { supportersArea } from '../supporters/index.ts';
import { died } from './died.ts';
import { Elsewhere } from './elsewhere.ts';
import { Findings } from './findings.ts';
import { lookAt } from './homes.ts';
import { join } from './joining.ts';
import { LANE, Mending } from './mending.ts';
import { move } from './moving.ts';
import { part } from './parting.ts';
import { Planned } from './planned.ts';
import { ReturnedMail } from './returned.ts';
import { z } from 'zod';
import { counted } from '@tallystick/core/words';

const countJob = jobKind('count-findings', LANE, z.object({}));

/** Keeping records true: what is unclean about them, and what is done when people die, move, part and join. */
export const upkeepArea = area('upkeep', ({ config, sql, changes, jobs, http, onClose, onListen }, of) => {
  const { settings } = of(settingsArea);
  const { tags } = of(supportersArea);
  const findings = new Findings(sql, changes, settings, new Elsewhere(sql, settings, tags), config.databaseUrl);
  onClose(() => findings.close());
  const mending = new Mending(changes, jobs, settings, findings);
  http.on(contract.listFindings, () => findings.counts());
  serveActs();
  http.on(contract.listFaults, ({ params, query }) => findings.list(params.finding, query));
  http.on(contract.mendFaults, ({ actor, params, body }) => mending.begin(actor, params.finding, body));
  http.on(contract.muteFinding, async ({ actor, params, body }) => {
    const { revision } = await findings.mute(actor, params.finding, body);
    return { revision };
  });
  jobs.handle(countJob, async () => {
    const { total } = await findings.counts();
    return `${counted(total, 'thing')} to look at.`;
  });
  onListen(async () => {
    const { time_zone: timeZone } = await settings.organization();
    await jobs.schedule('count what is unclean each night', { at: '40 3 * * *', timeZone }, () =>
      Promise.resolve({
        actor: { userId: null, name: 'The night run' },
        kind: countJob,
        job: { title: 'Counting what is unclean', payload: {}, link: '/upkeep' },
      }),
    );
  });

  function serveActs(): void {
    const deaths = new Planned(changes, settings, died);
    const moves = new Planned(changes, settings, move);
    const partings = new Planned(changes, settings, part);
    const joinings = new Planned(changes, settings, join);
    const returned = new ReturnedMail(sql, changes, settings);
    http.on(contract.planDeath, ({ actor, body }) => deaths.plan(actor, body));
    http.on(contract.noteDeath, ({ actor, body }) => deaths.carryOut(actor, body));
    http.on(contract.lookAtHome, async ({ params }) => lookAt(sql, params.id, await findings.when()));
    http.on(contract.planMove, ({ actor, body }) => moves.plan(actor, body));
    http.on(contract.noteMove, ({ actor, body }) => moves.carryOut(actor, body));
    http.on(contract.planParting, ({ actor, body }) => partings.plan(actor, body));
    http.on(contract.partHousehold, ({ actor, body }) => partings.carryOut(actor, body));
    http.on(contract.planJoining, ({ actor, body }) => joinings.plan(actor, body));
    http.on(contract.joinHousehold, ({ actor, body }) => joinings.carryOut(actor, body));
    http.on(contract.findReturned, async ({ body }) => ({ items: await returned.find(body.codes) }));
    http.on(contract.noteReturned, ({ actor, body }) => returned.note(actor, body));
  }
  return { findings };
});
