import { z } from 'zod';
import type { Actor } from '../platform/changes.ts';
import { jobKind } from '../platform/job-queue.ts';
import type { JobRequest } from '../platform/job-queue.ts';
import type { Composed, DeliveryRecord } from './delivery.entity.ts';

/** What goes out in one go, and which: a mailing, or an issue of receipts. */
export interface Source {
  kind: string;
  id: number;
}

/** A kind of message that goes out: who composes it, where it leads, and what is noted once all of it is out. */
export interface Sending {
  kind: string;
  /** Where in the app its outcome is seen. */
  link(id: number): string;
  /** Makes a composer for one source, which makes the messages of some of its deliveries. */
  composer(id: number): Promise<(rows: readonly DeliveryRecord[]) => Promise<Composed[]>>;
  finished?(id: number, actor: Actor): Promise<void>;
}

/** The work of sending what is queued of one source. Mail has a lane of its own. */
export const sendJob = jobKind('send', { name: 'mail', atOnce: 1 }, z.object({ kind: z.string(), id: z.number() }));

/** The work of sending one message again, because a person decided so. */
export const sendAgainJob = jobKind('send-again', sendJob.lane, z.object({ delivery: z.number() }));

/** Every kind of message that goes out, registered by the area that composes it. */
export class Sendings {
  private readonly kinds = new Map<string, Sending>();

  register(sending: Sending): void {
    this.kinds.set(sending.kind, sending);
  }

  of(kind: string): Sending {
    const found = this.kinds.get(kind);
    if (!found) throw new Error(`No one here knows how to compose “${kind}”.`);
    return found;
  }

  /** The job that sends what is queued of a source. */
  jobFor(source: Source, title: string, total: number): JobRequest<Source> {
    return { title, payload: source, total, link: this.of(source.kind).link(source.id) };
  }
}
