import type { Logger } from 'pino';
import type { DataSource } from 'typeorm';
import type { AppConfig } from './config.ts';
import type { AccessLog } from './platform/access-log.ts';
import type { Auth } from './platform/auth.ts';
import type { Changes } from './platform/changes.ts';
import type { Clock } from './platform/clock.ts';
import type { Sql } from './platform/db.ts';
import type { Http } from './platform/http.ts';
import type { Jobs } from './platform/jobs.ts';

/** What every area is built on. */
export interface Base {
  config: AppConfig;
  source: DataSource;
  sql: Sql;
  clock: Clock;
  changes: Changes;
  jobs: Jobs;
  log: Logger;
  http: Http;
  auth: Auth;
  accesses: AccessLog;
  /** The address that people reach us at, once it is known. */
  address(): string;
  /** Calls back when the app closes; what was opened last closes first. */
  onClose(close: () => Promise<void> | void): void;
  /** Calls back once the app listens. */
  onListen(begin: () => Promise<void>): void;
}

/** The services of another area, built before this one where need be. */
export type Of = <S extends object>(area: Area<S>) => S;

/**
 * An area: what it is called, and how its services are built on the base and on other areas. While it is built it
 * serves its endpoints, takes its jobs and schedules, and adds its parts to records, each at the base or at the area
 * that keeps them.
 */
export interface Area<S extends object> {
  name: string;
  build(base: Base, of: Of): S;
}

export const area = <S extends object>(name: string, build: Area<S>['build']): Area<S> => ({ name, build });

/** Builds areas as they are asked for, each once. Areas that wait for each other in a circle are an error. */
export function builder(base: Base): Of {
  const built = new Map<string, object>();
  const begun = new Set<string>();
  const of: Of = <S extends object>(wanted: Area<S>): S => {
    const found = built.get(wanted.name);
    if (found) return found as S;
    if (begun.has(wanted.name)) throw new Error(`The areas ${[...begun].join(', ')} wait for each other.`);
    begun.add(wanted.name);
    const services = wanted.build(base, of);
    begun.delete(wanted.name);
    built.set(wanted.name, services);
    return services;
  };
  return of;
}
