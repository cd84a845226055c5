import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import type { Running } from './running.js';

const WITHIN_MS = 10_000;

/** What a page, its Mistpeak and this machine looked like when a journey failed: a machine that stood still fails otherwise than a page. */
export async function lastLook(page: Page, running: Running): Promise<string> {
  const within = <T>(what: Promise<T>): Promise<T | string> =>
    Promise.race([
      what.catch(String),
      new Promise<string>((resolve) => setTimeout(resolve, WITHIN_MS, `no answer in ${WITHIN_MS / 1000} s`)),
    ]);
  const [words, access] = await Promise.all([
    within(page.evaluate(() => `${document.visibilityState}: ${document.body.innerText.slice(0, 500)}`)),
    within(fetch(`${running.address}/api/v1/access`).then((answer) => `${answer.status}`)),
  ]);
  const busiest = execFileSync('ps', ['-eo', 'pid,stat,pcpu,etimes,args', '--sort=-pcpu'], {
    encoding: 'utf8',
  })
    .split('\n')
    .slice(1, 8)
    .map((line) => line.slice(0, 120));
  return [
    `The page (${page.url()}): ${words}`,
    `Mistpeak${running.hasEnded ? ', which has ended' : ''}: ${access}`,
    `The machine: load ${readFileSync('/proc/loadavg', 'utf8').trim()}`,
    ...busiest,
  ].join('\n');
}
