import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';
import type { ParsedMail } from 'mailparser';

export interface Letterhead {
  id: string;
  at: string;
  to: string[];
  from: string;
  subject: string;
  messageId: string;
  attachments: string[];
}

/** Messages in a folder: each as it came (`.eml`) with a small card beside it (`.json`). */
export class Postbox {
  private next = 0;
  private readonly ready: Promise<unknown>;

  constructor(private readonly folder: string) {
    this.ready = mkdir(folder, { recursive: true });
  }

  async keep(source: Buffer, to: string[]): Promise<void> {
    await this.ready;
    const parsed = await simpleParser(source);
    const id = `${Date.now()}-${String(this.next++).padStart(5, '0')}`;
    const card: Letterhead = {
      id,
      at: new Date().toISOString(),
      to,
      from: parsed.from?.text ?? '',
      subject: parsed.subject ?? '',
      messageId: parsed.messageId ?? '',
      attachments: parsed.attachments.map((file) => file.filename ?? 'attachment'),
    };
    await writeFile(join(this.folder, `${id}.eml`), source);
    await writeFile(join(this.folder, `${id}.json`), JSON.stringify(card));
  }

  /** Newest first. */
  async list(): Promise<Letterhead[]> {
    await this.ready;
    const names = (await readdir(this.folder))
      .filter((name) => name.endsWith('.json'))
      .sort()
      .reverse();
    return Promise.all(
      names.map(async (name) => {
        const card: Letterhead = JSON.parse(await readFile(join(this.folder, name), 'utf8'));
        return card;
      }),
    );
  }

  async raw(id: string): Promise<string> {
    return readFile(this.pathOf(id), 'utf8');
  }

  async read(id: string): Promise<ParsedMail> {
    return simpleParser(await readFile(this.pathOf(id)));
  }

  async empty(): Promise<void> {
    for (const name of await readdir(this.folder)) await rm(join(this.folder, name));
  }

  private pathOf(id: string): string {
    if (!/^\d+-\d+$/.test(id)) throw new Error('There is no such message.');
    return join(this.folder, `${id}.eml`);
  }
}
