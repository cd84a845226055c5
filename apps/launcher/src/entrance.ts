import { spawn } from 'node:child_process';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** How the running server is reached by whoever may read this data folder: itself 0600. */
interface Way {
  readonly port: number;
  readonly secret: string;
}

const fileIn = (data: string): string => join(data, 'way-in.json');

export function keepWay(data: string, way: Way): () => void {
  writeFileSync(fileIn(data), JSON.stringify(way), { mode: 0o600 });
  return () => rmSync(fileIn(data), { force: true });
}

/** An address that lets the operator in at this machine, once. Rejects, in words, when nothing runs on that folder. */
export async function newAddress(data: string): Promise<string> {
  const file = fileIn(data);
  if (!existsSync(file)) throw new Error(`Mistpeak does not run on ${data}. Start it with ./mistpeak start.`);
  const { port, secret } = JSON.parse(readFileSync(file, 'utf8')) as Way;
  const base = `http://127.0.0.1:${port}`;
  const headers = { 'x-launcher-secret': secret };
  const answer = await fetch(`${base}/api/v1/access/entrances`, { method: 'POST', headers }).catch(
    () => undefined,
  );
  if (!answer?.ok)
    throw new Error(`Mistpeak at ${base} does not answer. Look at the terminal that it was started in.`);
  const { token } = (await answer.json()) as { token: string };
  return `${base}/enter?token=${token}`;
}

const OPENER = '/usr/bin/xdg-open';
/** The desktop's browser has read it long before. */
const FORGET_AFTER_MS = 60_000;

/**
 * Opens it in the desktop's browser, where there is a desktop. Not as an argument, which every user of the machine can read
 * (proc(5), cmdline): by a file that only its owner reads, and that leads there.
 */
export function openInBrowser(address: string, data: string): void {
  const hasDesktop = Boolean(process.env.DISPLAY ?? process.env.WAYLAND_DISPLAY);
  if (!hasDesktop || !existsSync(OPENER)) return;
  const file = join(data, 'open.html');
  rmSync(file, { force: true });
  writeFileSync(file, `<!doctype html><meta http-equiv="refresh" content="0;url=${address}">`, {
    mode: 0o600,
  });
  spawn(OPENER, [file], { stdio: 'ignore', detached: true })
    .on('error', () => undefined)
    .unref();
  setTimeout(() => rmSync(file, { force: true }), FORGET_AFTER_MS).unref();
}
