import { Injectable } from '@nestjs/common';
import { formatAdif } from '@mistpeak/core/adif/adif';
import { concatOctets, fromHex, shownText } from '@mistpeak/core/bits/octets';
import { decodeText, guessCharset } from '@mistpeak/core/terminal/charset';
import { stripEscapes } from '@mistpeak/core/terminal/escapes';
import { Transcript } from '@mistpeak/core/terminal/transcript';
import type { SaidView, SessionView } from '@mistpeak/contract/sessions';
import { OperatorService } from '../operator/operator.service.js';
import { ProblemException } from '../problems/problem.js';
import { SessionStore } from './session-store.js';

export interface ExportedFile {
  readonly name: string;
  readonly type: string;
  readonly octets: Buffer;
}

/** A session as a file: its transcript with times, the far end's octets alone, or the contact for a logbook. */
@Injectable()
export class SessionExport {
  constructor(
    private readonly operator: OperatorService,
    private readonly store: SessionStore,
  ) {}

  async make(view: SessionView, form: string): Promise<ExportedFile> {
    const stem = `session-${view.peer}-${new Date(view.openedAtMs).toISOString().slice(0, 16).replace(/[T:]/g, '-')}`;
    switch (form) {
      case 'text':
        return {
          name: `${stem}.txt`,
          type: 'text/plain; charset=utf-8',
          octets: Buffer.from(await this.text(view)),
        };
      case 'binary':
        return { name: `${stem}.bin`, type: 'application/octet-stream', octets: await this.binary(view) };
      case 'adif':
        return {
          name: `${stem}.adi`,
          type: 'text/plain; charset=us-ascii',
          octets: Buffer.from(this.adif(view)),
        };
      default:
        throw new ProblemException('not-found');
    }
  }

  private async text({ id, own, peer, via, openedAtMs, outcome }: SessionView): Promise<string> {
    const said = await this.store.said(id);
    const transcript = new Transcript();
    for (const one of said) transcript.add({ ...one, octets: octetsOf(one) });
    const charset = guessCharset(concatOctets(...said.filter(({ side }) => side === 'theirs').map(octetsOf)));
    const head = `Session of ${own} with ${peer}${via.length > 0 ? ` via ${via.join(', ')}` : ''}, ${timeOf(openedAtMs)} UTC`;
    const lines = transcript.shown().map(({ side, atMs, octets }) => {
      const text = shownText(stripEscapes(decodeText(octets, charset)));
      return `${timeOf(atMs).slice(11)} ${side === 'mine' ? own : peer}: ${text}`;
    });
    return [head, '', ...lines, '', `${outcome ?? 'it stands'}`, ''].join('\n');
  }

  /** What came, octet by octet. */
  private async binary({ id }: SessionView): Promise<Buffer> {
    const said = await this.store.said(id);
    return Buffer.from(concatOctets(...said.filter(({ side }) => side === 'theirs').map(octetsOf)));
  }

  /** A session that never stood is no contact. */
  private adif({ own, peer, connectedAtMs, endedAtMs, frequencyMHz: set }: SessionView): string {
    if (connectedAtMs === undefined) throw new ProblemException('no-contact');
    const frequencyMHz = set ?? this.operator.view()?.channelMHz;
    return formatAdif([
      {
        call: peer,
        stationCall: own,
        onMs: connectedAtMs,
        ...(endedAtMs === undefined ? {} : { offMs: endedAtMs }),
        mode: 'PKT',
        ...(frequencyMHz === undefined ? {} : { frequencyMHz }),
        comment: 'connected packet session',
      },
    ]);
  }
}

const octetsOf = ({ hex }: SaidView): Uint8Array => fromHex(hex) as Uint8Array;
const timeOf = (atMs: number): string => new Date(atMs).toISOString().slice(0, 19).replace('T', ' ');
