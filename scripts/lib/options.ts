import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { isIsoDate } from '@tallystick/core/dates';

export interface Options {
  data: string;
  port: number;
  empty: boolean;
  today: string | null;
  supporters: number | null;
  gifts: number | null;
  rest: string[];
}

/** An error whose message is all that the person needs to see. */
export class Plain extends Error {}

const whole = (name: string, text: string | undefined): number | null => {
  if (text === undefined) return null;
  const value = Number(text);
  if (!Number.isSafeInteger(value) || value < 0) throw new Plain(`--${name} takes a whole number, not “${text}”.`);
  return value;
};

/** Reads the options that the scripts share; relative folders are relative to where npm was called. */
export function readOptions(args: string[] = process.argv.slice(2)): Options {
  try {
    const { values, positionals } = parseArgs({
      args,
      allowPositionals: true,
      options: {
        data: { type: 'string', default: '.tallystick' },
        port: { type: 'string', default: '4460' },
        empty: { type: 'boolean', default: false },
        today: { type: 'string' },
        supporters: { type: 'string' },
        gifts: { type: 'string' },
      },
    });
    if (values.today !== undefined && !isIsoDate(values.today))
      throw new Plain(`--today takes a date such as 2026-03-14, not “${values.today}”.`);
    return {
      data: resolve(process.env['TALLYSTICK_CALLED_FROM'] ?? '.', values.data),
      port: whole('port', values.port) ?? 4460,
      empty: values.empty,
      today: values.today ?? null,
      supporters: whole('supporters', values.supporters),
      gifts: whole('gifts', values.gifts),
      rest: positionals,
    };
  } catch (error) {
    if (error instanceof Plain) throw error;
    throw new Plain(error instanceof Error ? error.message : String(error));
  }
}

/** Runs a script's body; plain errors are printed as they are and end with status 1. */
export async function main(body: () => Promise<void>): Promise<void> {
  try {
    await body();
  } catch (error) {
    console.error(error instanceof Plain ? error.message : error);
    process.exit(1);
  }
}
