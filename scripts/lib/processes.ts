import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { programArguments, ROOT } from './build.ts';

export { ROOT };

export interface Running {
  /** What the process printed after `listening`. */
  said: string[];
  child: ChildProcess;
  stop(): Promise<void>;
}

/** Starts one of our TypeScript programs and waits until it says `listening …`; rejects with its exit code. */
export async function startProgram(
  path: string,
  args: readonly string[],
  env: Record<string, string> = {},
): Promise<Running> {
  const child = spawn(process.execPath, [...(await programArguments(path)), ...args], {
    cwd: ROOT,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
    detached: true,
  });
  return new Promise((resolve, reject) => {
    let text = '';
    child.stdout.on('data', (part: Buffer) => {
      text += part.toString();
      const line = /^listening (.*)$/m.exec(text)?.[1];
      if (line !== undefined) resolve({ said: line.split(' '), child, stop: () => stopped(child) });
    });
    child.once('exit', (code) => reject(new ExitError(path, code)));
  });
}

export class ExitError extends Error {
  constructor(
    path: string,
    readonly code: number | null,
  ) {
    super(`${path} ended with status ${code ?? 'none'} before it was ready.`);
  }
}

function stopped(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    const hard = setTimeout(() => child.kill('SIGKILL'), 10_000);
    child.once('exit', () => {
      clearTimeout(hard);
      resolve();
    });
    child.kill('SIGTERM');
  });
}
