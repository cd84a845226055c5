import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { ProgramsView, ProgramView } from '@mistpeak/contract/programs';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';
import { KeptFiles } from './kept-files.js';
import { readPrograms, type ProgramSettings } from './program-file.js';

const FILE = 'modem-programs.json';
const SAID_LINES = 12;
const SAID_LONGEST = 300;
/** A program that does not end when asked is ended. */
const ENDS_WITHIN_MS = 3000;

interface Running {
  readonly child: ChildProcess;
  phase: 'starting' | 'running' | 'stopping';
  /** Links that let go of the card, to be opened again. */
  readonly links: readonly string[];
}

/**
 * Other modem programs of this machine, as a file in the data folder describes them. No command writes that file, since what
 * stands there is run.
 */
@Injectable()
export class ProgramsService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly log = new Logger('programs');
  private readonly running = new Map<string, Running>();
  private readonly said = new Map<string, string[]>();
  private readonly failures = new Map<string, string>();
  private readonly kept: KeptFiles | undefined;
  private readonly file: string;

  constructor(
    @Inject(CONFIGURATION) { dataFolder }: Configuration,
    private readonly links: LinksService,
    private readonly live: LiveService,
  ) {
    this.kept = dataFolder === undefined ? undefined : new KeptFiles(dataFolder);
    this.file = join(dataFolder ?? '', FILE);
  }

  onApplicationBootstrap(): void {
    for (const path of this.kept?.restoreAll() ?? [])
      this.log.warn(`${path} was put back as it was: the last run ended without doing so`);
    this.live.contribute('programs', () => this.view());
  }

  async onModuleDestroy(): Promise<void> {
    await Promise.all([...this.running.keys()].map((name) => this.end(name)));
  }

  view(): ProgramsView {
    const programs = this.read();
    if (isMalformed(programs)) return { programs: [], file: this.file, trouble: programs.malformed };
    return { programs: programs.map((one) => this.viewOf(one)), file: this.file };
  }

  async start(name: string): Promise<ProgramsView> {
    const program = this.find(name);
    if (this.running.has(name)) return this.view();
    this.failures.delete(name);
    this.said.set(name, []);
    // Only then the card is free, and the program finds it so.
    const links = program.card === undefined ? [] : await this.links.letGoOfCard(program.card);
    try {
      if (program.configuration) this.kept?.replace(program.configuration.path, program.configuration.text);
      this.run(program, links);
    } catch (error) {
      this.ended(program, links, error instanceof Error ? error.message : String(error));
    }
    return this.publish();
  }

  async stop(name: string): Promise<ProgramsView> {
    this.find(name);
    await this.end(name);
    return this.view();
  }

  private run(program: ProgramSettings, links: readonly string[]): void {
    const [word = '', ...rest] = program.command;
    const child = spawn(word, rest, { stdio: ['ignore', 'pipe', 'pipe'], env: process.env });
    const running: Running = { child, phase: 'starting', links };
    this.running.set(program.name, running);
    child.once('spawn', () => {
      running.phase = 'running';
      this.publish();
    });
    for (const output of [child.stdout, child.stderr])
      output?.on('data', (part: Buffer) => this.note(program.name, part.toString()));
    let why: string | undefined;
    child.once('error', (error: NodeJS.ErrnoException) => {
      why = error.code === 'ENOENT' ? `there is no program ${word}` : error.message;
    });
    child.once('close', (code, signal) => {
      const isWanted = running.phase === 'stopping';
      const words = code === null ? `it was ended by ${signal}` : `it ended with ${code}`;
      this.ended(program, links, why ?? (isWanted || code === 0 ? undefined : words));
    });
  }

  /** Its configuration is put back, and the links have their card again. */
  private ended(program: ProgramSettings, links: readonly string[], why: string | undefined): void {
    this.running.delete(program.name);
    if (program.configuration) this.kept?.restore(program.configuration.path);
    if (why !== undefined) this.failures.set(program.name, why);
    this.publish();
    for (const id of links) this.links.open(id).catch((error: unknown) => this.log.warn(String(error)));
  }

  private end(name: string): Promise<void> {
    const running = this.running.get(name);
    if (!running) return Promise.resolve();
    running.phase = 'stopping';
    this.publish();
    const { child } = running;
    return new Promise((resolve) => {
      const force = setTimeout(() => child.kill('SIGKILL'), ENDS_WITHIN_MS);
      child.once('close', () => {
        clearTimeout(force);
        resolve();
      });
      child.kill();
    });
  }

  private note(name: string, text: string): void {
    const lines = text.split('\n').filter((line) => line.trim() !== '');
    const all = [...(this.said.get(name) ?? []), ...lines.map((line) => line.slice(0, SAID_LONGEST))];
    this.said.set(name, all.slice(-SAID_LINES));
    this.publish();
  }

  private find(name: string): ProgramSettings {
    const programs = this.read();
    const found = isMalformed(programs) ? undefined : programs.find((one) => one.name === name);
    if (!found) throw new ProblemException('not-found');
    return found;
  }

  private read(): ReturnType<typeof readPrograms> {
    return existsSync(this.file) ? readPrograms(readFileSync(this.file, 'utf8')) : [];
  }

  private viewOf({ name, command, card }: ProgramSettings): ProgramView {
    const why = this.failures.get(name);
    return {
      name,
      command,
      phase: this.running.get(name)?.phase ?? (why === undefined ? 'stopped' : 'failed'),
      said: this.said.get(name) ?? [],
      ...(card !== undefined && { card }),
      ...(why !== undefined && { why }),
    };
  }

  private publish(): ProgramsView {
    const view = this.view();
    this.live.publish({ kind: 'programs', data: view });
    return view;
  }
}
