import * as contract from '@tallystick/contract/jobs';
import { area } from '../area.ts';
import { jobView } from '../platform/jobs.ts';
import { Stream } from '../platform/stream.ts';

/** Long work as people see it: what runs, what ended, stopping it, and the stream that tells of it. */
export const jobsArea = area('jobs', ({ sql, jobs, changes, http, auth, onClose }) => {
  const stream = new Stream(sql, jobs, changes);
  onClose(() => stream.close());
  http.on(contract.listJobs, async () => ({ items: (await jobs.recent()).map(jobView) }));
  http.on(contract.streamJobs, async ({ request, response }) => {
    stream.add(response, () => auth.stands(request));
    return undefined;
  });
  http.on(contract.getJob, async ({ params }) => jobView(await jobs.get(params.id)));
  http.on(contract.cancelJob, async ({ params, actor }) => {
    await jobs.cancel(actor, params.id);
    return jobView(await jobs.get(params.id));
  });
  return {};
});
