import { randomInt } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { readMailAddress } from '@mistpeak/core/mail/address';
import { isMid, makeMid, readLetter, writeLetter } from '@mistpeak/core/mail/letter';
import { packMessage, readMessage, type MailMessage } from '@mistpeak/core/mail/message';
import type {
  Box,
  KeepLetter,
  LetterText,
  MailMessageView,
  MailRow,
  MoveMessage,
} from '@mistpeak/contract/mail';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { OperatorService } from '../operator/operator.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { RemovalsService } from '../removals/removals.service.js';
import { fromEml, fromMbox, toEml, toMbox } from './eml.js';
import { passwordIn, withoutPassword } from './first-password.js';
import { TrueTimeService } from '../true-time/true-time.service.js';
import { MailHoldings } from './holdings.service.js';
import { MailPulseService } from './mail-pulse.service.js';
import { MailSettingsService } from './mail-settings.service.js';
import { MailStore } from './mail-store.js';

const MOST_LISTED = 100;
const MOST_IMPORTED = 2000;

/** The letters: written, posted, read, kept in order. Posting sends nothing. */
@Injectable()
export class MailBoxService {
  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly holdings: MailHoldings,
    private readonly operator: OperatorService,
    private readonly pulse: MailPulseService,
    private readonly removals: RemovalsService,
    private readonly settings: MailSettingsService,
    private readonly store: MailStore,
    private readonly trueTime: TrueTimeService,
  ) {}

  async list(
    box: Box | undefined,
    query: { folder?: string | undefined; words?: string; before?: number | undefined },
  ): Promise<MailRow[]> {
    const rows = await this.store.list(box, { ...query, most: MOST_LISTED });
    return rows.filter(({ id }) => !this.removals.isLeaving(keyOf(id)));
  }

  async one(id: string): Promise<MailMessageView> {
    const { row, message } = await this.find(id);
    const letter = readLetter(message);
    const hasPassword = passwordIn(letter) !== undefined;
    return {
      ...row,
      to: letter.to,
      cc: letter.cc,
      text: withoutPassword(letter),
      fileNames: letter.files,
      headers: message.headers.map(({ name, value }) => [name, value] as const),
      ...(hasPassword ? { holdsPassword: true as const } : {}),
    };
  }

  async passwordOf(id: string): Promise<string | undefined> {
    return passwordIn(readLetter((await this.find(id)).message));
  }

  async file(id: string, at: number): Promise<{ name: string; octets: Uint8Array }> {
    const { message } = await this.find(id);
    const file = message.files[at];
    if (!file) throw new ProblemException('not-found');
    return { name: readLetter(message).files[at]?.name ?? 'file', octets: file.octets };
  }

  async eml(id: string): Promise<Buffer> {
    return toEml((await this.find(id)).message);
  }

  /** All of a box, one after another. */
  async mbox(box: Box, folder: string | undefined): Promise<Buffer> {
    const rows = await this.store.list(box, { folder, most: MOST_IMPORTED });
    const files: { eml: Buffer; from: string; atMs: number }[] = [];
    for (const row of rows) files.push({ eml: await this.eml(row.id), from: row.from, atMs: row.atMs });
    return toMbox(files);
  }

  /** Letters out of .eml or mbox files, into a folder; those that are there already are passed over. */
  async importInto(
    folder: string,
    octets: Uint8Array,
    id: () => string,
  ): Promise<{ taken: number; known: number; unreadable: number }> {
    const sum = { taken: 0, known: 0, unreadable: 0 };
    for (const eml of fromMbox(octets).slice(0, MOST_IMPORTED)) {
      const read = await fromEml(eml).catch(() => undefined);
      if (!read || (read.from === '' && read.to.length === 0 && read.subject === '')) {
        sum.unreadable++;
        continue;
      }
      const mid = read.mid !== undefined && isMid(read.mid) ? read.mid : makeMid(dice);
      const message = writeLetter({
        ...read,
        mid,
        dateMs: read.dateMs ?? this.clock.nowMs(),
        origin: this.ownCall(),
        beyondLatin1: 'utf-8',
      });
      const isNew = await this.store.add({
        id: id(),
        box: 'folder',
        folder,
        isOurs: false,
        isRead: true,
        octets: packMessage(message),
        atMs: read.dateMs ?? this.clock.nowMs(),
        precedence: 'routine',
        onlyInternet: false,
      });
      sum[isNew ? 'taken' : 'known']++;
    }
    await this.holdings.read();
    await this.pulse.tell();
    return sum;
  }

  /** The same id again is the same letter. A draft may be half; what is posted must be whole. */
  async write(id: string, letter: KeepLetter): Promise<MailRow> {
    const known = await this.store.find(id);
    if (!known) {
      await this.store.add({ ...this.kept(id, letter, makeMid(dice)), isOurs: true, isRead: true });
      await this.noteAnswered(letter);
    }
    return this.written(id);
  }

  async rewrite(id: string, letter: KeepLetter): Promise<MailRow> {
    const { row } = await this.find(id);
    if (row.box !== 'drafts' && row.box !== 'outbox') throw new ProblemException('not-found');
    refuseIfChanged(row.version, letter.version);
    if (this.holdings.isGoing(row.mid)) throw new ProblemException('mail-under-way');
    const kept = { ...this.kept(id, letter, row.mid), isOurs: true, isRead: true };
    if (!(await this.store.replace(kept, row.version))) throw new ProblemException('changed-meanwhile');
    await this.noteAnswered(letter);
    return this.written(id);
  }

  async move(id: string, { box, folder }: MoveMessage): Promise<MailRow> {
    const { row, isOurs } = await this.find(id);
    if (this.holdings.isGoing(row.mid)) throw new ProblemException('mail-under-way');
    const isOutgoing = row.box === 'drafts' || row.box === 'outbox';
    // A letter to be sent again is written again: with its id it would be taken for the one that they have.
    if (
      box === 'outbox' || box === 'drafts'
        ? !isOutgoing
        : (box === 'inbox') === isOurs && box !== 'folder' && box !== 'sent'
    )
      throw new ProblemException('field-refused', { box: 'it does not belong there' });
    if (box === 'folder' && (folder ?? '').trim() === '')
      throw new ProblemException('field-refused', { folder: 'give the folder a name' });
    if (box === 'outbox') this.refuseHalf(readLetter((await this.find(id)).message));
    await this.store.move(id, box, box === 'folder' ? folder?.trim() : undefined);
    return this.written(id);
  }

  async markRead(id: string, isRead: boolean): Promise<MailRow> {
    await this.store.markRead(id, isRead);
    return this.written(id);
  }

  async remove(id: string): Promise<void> {
    const { row } = await this.find(id);
    if (this.holdings.isGoing(row.mid)) throw new ProblemException('mail-under-way');
    const isPosted = row.box === 'outbox';
    if (isPosted) await this.store.move(id, 'drafts', undefined);
    await this.removals.remove({
      key: keyOf(id),
      words: row.subject === '' ? `a letter from ${row.from}` : `the letter “${row.subject}”`,
      changed: () => this.pulse.tell(),
      finish: async () => {
        await this.store.remove(id);
        await this.pulse.tell();
      },
    });
    await this.holdings.readOutbox();
  }

  /** The message that a letter would be, whether or not it is whole. */
  message(letter: LetterText, mid: string): MailMessage {
    const rules = { own: this.settings.addresses(), domain: this.settings.view().domain };
    const wire = (typed: string): string => {
      const address = readMailAddress(typed, rules);
      return address.ok ? address.address : typed.trim();
    };
    return writeLetter({
      mid,
      dateMs: this.clock.nowMs(),
      from: letter.from !== undefined && rules.own.includes(letter.from) ? letter.from : this.ownCall(),
      to: letter.to.map(wire),
      cc: letter.cc.map(wire),
      subject: letter.subject,
      text: letter.text,
      files: letter.files.map(({ name, base64 }) => ({
        name,
        octets: new Uint8Array(Buffer.from(base64, 'base64')),
      })),
      origin: this.ownCall(),
      beyondLatin1: letter.beyondLatin1,
    });
  }

  private ownCall(): string {
    return this.operator.view()?.call ?? '';
  }

  private kept(
    id: string,
    letter: KeepLetter,
    mid: string,
  ): Omit<Parameters<MailStore['add']>[0], 'isOurs' | 'isRead'> {
    if (letter.box === 'outbox') {
      this.refuseHalf(letter);
      this.trueTime.refuseWhileWrong();
    }
    const { precedence, onlyInternet, afterMs, box, beyondLatin1 } = letter;
    // A draft keeps every sign that was typed, whatever becomes of it when it is posted.
    const octets = packMessage(
      this.message(box === 'drafts' ? { ...letter, beyondLatin1: 'utf-8' } : letter, mid),
    );
    return { id, box, octets, atMs: this.clock.nowMs(), precedence, onlyInternet, afterMs, beyondLatin1 };
  }

  private refuseHalf({ to, cc }: { readonly to: readonly string[]; readonly cc: readonly string[] }): void {
    const rules = { own: this.settings.addresses(), domain: this.settings.view().domain };
    if (this.ownCall() === '')
      throw new ProblemException('field-refused', { from: 'say first who you are, in Settings' });
    if (to.length === 0)
      throw new ProblemException('field-refused', { to: 'to whom? A call, or an address of the internet' });
    for (const [field, all] of Object.entries({ to, cc }))
      for (const typed of all) {
        const address = readMailAddress(typed, rules);
        if (!address.ok) throw new ProblemException('field-refused', { [field]: address.trouble });
      }
  }

  private async noteAnswered({ answers, box }: KeepLetter): Promise<void> {
    if (answers !== undefined && box === 'outbox') await this.store.markAnswered(answers, this.clock.nowMs());
  }

  private async written(id: string): Promise<MailRow> {
    await this.holdings.readOutbox();
    await this.pulse.tell();
    return (await this.find(id)).row;
  }

  private async find(id: string): Promise<{ row: MailRow; message: MailMessage; isOurs: boolean }> {
    const found = await this.store.find(id);
    const message = found && readMessage(found.octets);
    if (!found || !message || isMalformed(message)) throw new ProblemException('not-found');
    return { row: found.row, message, isOurs: found.isOurs };
  }
}

const keyOf = (id: string): string => `mail ${id}`;
const SCALE = 2 ** 32;
/** Ids of messages are guessed by nobody. */
export const dice = (): number => randomInt(SCALE) / SCALE;
