import { App } from '@tallystick/server/app';
import { threadData } from '@tallystick/server/platform/thread';

/** A file that is brought in and taken back, on a database. */
export interface BroughtIn {
  databaseUrl: string;
  bytes: Uint8Array;
}

const ACTOR = { userId: null, name: 'bench' };

const { databaseUrl, bytes } = threadData<BroughtIn>();
const app = await App.open({
  ...{ databaseUrl, smtpUrl: 'smtp://127.0.0.1:9', today: null, demo: false, till: null, mailRoom: null },
  ...{ webFolder: null, publicUrl: null, logLevel: 'warn' },
});
const { intakes, changes } = app.services;
const { id } = await intakes.upload(ACTOR, 'bench.csv', Buffer.from(bytes));
await intakes.preview(id, { limit: 100 });
await intakes.bringIn(ACTOR, id);
const { revision } = await intakes.get(id);
await changes.undo(ACTOR, revision ?? 0);
await app.close();
