import express from 'express';
import { ODD_SIGN } from '@tallystick/core/names';
import type { Request, Response } from 'express';
import { Problem } from './problem.ts';

/* What comes in with a request: read only once it is known who asks, and of no more than can be walked through. */

const LARGEST_JSON = '4mb';
/** Of what anyone may send without signing in. */
const LARGEST_JSON_OF_ANYONE = '64kb';
/** Lists and tables within each other; no shape of the contract comes near it. */
const DEEPEST = 64;

const TOO_DEEP = 'This is nested deeper than anything that is taken here.';

/** Refuses what is nested too deep before it is parsed: a pass over the bytes, which parsing would take far longer for. */
function verify(_request: unknown, _response: unknown, body: Buffer): void {
  const [quote, backslash] = [0x22, 0x5c];
  let [depth, inText] = [0, false];
  for (let at = 0; at < body.length; at++) {
    const byte = body[at] as number;
    if (inText) {
      if (byte === backslash) at++;
      else if (byte === quote) inText = false;
    } else if (byte === quote) inText = true;
    else if (byte === 0x5b || byte === 0x7b) {
      if (++depth > DEEPEST) throw new Problem(400, 'invalid', TOO_DEEP);
    } else if (byte === 0x5d || byte === 0x7d) depth--;
  }
}

const parserOf = (limit: string) => express.json({ limit, inflate: false, verify });
const [parse, parseOfAnyone] = [parserOf(LARGEST_JSON), parserOf(LARGEST_JSON_OF_ANYONE)];

/** The body of a request as JSON, an empty table where there is none. */
export async function readJson(request: Request, response: Response, isKnown: boolean): Promise<unknown> {
  await new Promise<void>((resolve, reject) =>
    (isKnown ? parse : parseOfAnyone)(request, response, (error?: unknown) =>
      error === undefined ? resolve() : reject(error as Error),
    ),
  );
  return request.body ?? {};
}

/** The body of an upload; one that is too large is refused as soon as that is known, without being kept. */
export async function readBody(request: Request, most: number, message: string): Promise<Buffer> {
  const tooLarge = new Problem(413, 'too-large', message);
  if (Number(request.headers['content-length'] ?? 0) > most) throw tooLarge;
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > most) throw tooLarge;
    parts.push(part);
  }
  return Buffer.concat(parts);
}

const ODD = 'The text holds something that is no sign (NUL, a control sign, or half of a pair). Type it anew.';
/** What keeps its lines: the text of letters and notes, streets, and the head of letters. */
const LINES = ['text', 'street', 'letterhead'];
const isTable = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null;

/**
 * Goes through all text of a body: refuses (400, at the field) what is no sign, and makes one line of what has
 * several, but for what keeps its lines. Changes the body itself.
 */
export function cleanText(body: unknown): void {
  const refuse = (path: string, message: string): never => {
    throw new Problem(400, 'invalid', message, { fields: { [path]: message } });
  };
  const open: [value: unknown, path: string][] = [[body, '']];
  for (let next = open.pop(); next; next = open.pop()) {
    const [table, path] = next;
    if (!isTable(table)) continue;
    for (const [name, value] of Object.entries(table)) {
      const at = path === '' ? name : `${path}.${name}`;
      if (ODD_SIGN.test(name)) refuse(path, ODD);
      if (typeof value === 'string') {
        if (ODD_SIGN.test(value)) refuse(at, ODD);
        if (/[\r\n]/.test(value))
          table[name] = LINES.includes(name) ? value.replace(/\r\n?/g, '\n') : value.replace(/\s*[\r\n]\s*/g, ' ');
      } else open.push([value, at]);
    }
  }
}
