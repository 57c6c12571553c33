import * as contract from '@tallystick/contract/upkeep';
import { area } from '../area.ts';
import { jobKind } from '../platform/job-queue.ts';
import { settingsArea } from '../settings/index.ts';
import { supportersArea } from '../supporters/index.ts';
import { Deaths } from './died.ts';
import { Elsewhere } from './elsewhere.ts';
import { Findings } from './findings.ts';
import { Homes } from './homes.ts';
import { LANE, Mending } from './mending.ts';
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
    const { items } = await findings.counts();
    return `${counted(
      items.reduce((sum, { count }) => sum + count, 0),
      'thing',
    )} to look at.`;
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
    const deaths = new Deaths(changes, settings);
    const homes = new Homes(sql, changes, settings);
    const returned = new ReturnedMail(sql, changes, settings);
    http.on(contract.planDeath, ({ actor, body }) => deaths.plan(actor, body));
    http.on(contract.noteDeath, ({ actor, body }) => deaths.note(actor, body));
    http.on(contract.lookAtHome, ({ params }) => homes.look(params.id));
    http.on(contract.planMove, ({ actor, body }) => homes.planMove(actor, body));
    http.on(contract.noteMove, ({ actor, body }) => homes.noteMove(actor, body));
    http.on(contract.planParting, ({ actor, body }) => homes.planParting(actor, body));
    http.on(contract.partHousehold, ({ actor, body }) => homes.partHousehold(actor, body));
    http.on(contract.planJoining, ({ actor, body }) => homes.planJoining(actor, body));
    http.on(contract.joinHousehold, ({ actor, body }) => homes.joinHousehold(actor, body));
    http.on(contract.findReturned, async ({ body }) => ({ items: await returned.find(body.codes) }));
    http.on(contract.noteReturned, ({ actor, body }) => returned.note(actor, body));
  }
  return { findings };
});
