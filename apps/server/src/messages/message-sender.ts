import { Injectable } from '@nestjs/common';
import { uiFrame } from '@mistpeak/core/ax25/frame';
import { OWN_DESTINATION } from '@mistpeak/core/beacon/beacon';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { parsePath } from '@mistpeak/core/digipeating/alias';
import { INTERNET_SIDE } from '@mistpeak/contract/frame';
import { InternetService } from '../internet/internet.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';

/** What did not leave within this time is offered anew: by then it may be of no use. */
const LEAVE_WITHIN_MS = 60_000;

export interface Leaving {
  /** Who takes turns. */
  readonly owner: string;
  readonly linkId: string;
  readonly from: string;
  /** As it is typed; by the internet it says nothing. */
  readonly path: string;
  /** One character per octet. */
  readonly info: string;
  readonly purpose: 'message' | 'acknowledgement';
}

/** Messages by whichever way they leave: a link, or the internet side. */
@Injectable()
export class MessageSender {
  constructor(
    private readonly internet: InternetService,
    private readonly transmitting: TransmittingService,
  ) {}

  /** Resolves when it is with the TNC or the server. @throws Error, in words, if it does not leave. */
  async send({ owner, linkId, from, path, info, purpose }: Leaving): Promise<void> {
    if (linkId === INTERNET_SIDE) return this.internet.send(from, OWN_DESTINATION, info);
    const hops = parsePath(path);
    if (isMalformed(hops)) throw new Error(hops.malformed);
    const what = await this.transmitting.offer({
      linkId,
      frame: uiFrame(from, OWN_DESTINATION, hops, fromLatin1(info)),
      sendClass: 'message',
      owner,
      purpose,
      expiresInMs: LEAVE_WITHIN_MS,
    });
    if (what !== 'handed') throw new Error(`dropped: ${what}`);
  }

  withdraw(linkId: string, owner: string): void {
    if (linkId !== INTERNET_SIDE) this.transmitting.withdraw(linkId, owner);
  }
}
