import { create } from 'zustand';
import type { LinkKind, LinkSettings, LinkView } from '@mistpeak/contract/link';
import { soundText } from '@mistpeak/contract/sound';
import { keepAwake } from '../adapters/keep-awake';
import { wordsOf, type CannotLend, type LentDevice } from '../adapters/lent-device';
import { whyNoSound } from '../adapters/sound/sound-card';
import { chooseBluetoothTnc, whyNoBluetooth } from '../adapters/web-bluetooth';
import { chooseSerialPort, grantedSerialPort, whyNoSerial } from '../adapters/web-serial';
import { lentSoundCard } from './sound-at-page';
import { useLive } from './store';

/** The server takes this close code for a device that went away, and closes with that one when another page has brought its own. */
const UNPLUGGED = 4410;
const TAKEN_OVER = 4409;
const RETRY_MS = [500, 1000, 2000, 5000] as const;
/** A link that the operator has closed is looked at again so often. */
const LOOK_AGAIN_MS = 500;
/** Which links this browser lends a serial port to: after a reload it does so again without asking. */
const KEY = 'lent-serial-ports';

/** One device that this page lends. */
export interface Lending {
  readonly name: string;
  readonly isForwarding: boolean;
  readonly received: number;
  readonly sent: number;
}

interface LendingState {
  readonly lendings: ReadonlyMap<string, Lending>;
  /** Why it ended or did not begin, by link. */
  readonly troubles: ReadonlyMap<string, string>;
}

export const useLending = create<LendingState>(() => ({ lendings: new Map(), troubles: new Map() }));

const devices = new Map<string, LentDevice>();

export function whyCannotLend(kind: LinkKind): CannotLend | undefined {
  if (kind === 'page-sound') return whyNoSound();
  return kind === 'page-bluetooth' ? whyNoBluetooth() : whyNoSerial();
}

/** Asks for the device and lends it for as long as the page lives. Call it from a click. */
export async function lend(link: LinkView): Promise<void> {
  const { id, settings } = link;
  try {
    if (settings.kind === 'page-sound') return forward(id, await lentSoundCard(link), settings, true);
    const isBluetooth = settings.kind === 'page-bluetooth';
    const device = isBluetooth ? await chooseBluetoothTnc() : await chooseSerialPort(settings.speed ?? 9600);
    if (!isBluetooth) remember(id, true);
    forward(id, device, settings, true);
  } catch (error) {
    tell(id, wordsOf(error));
  }
}

/** Lends again after a reload, as soon as the links are known. */
export function followLinks(): void {
  useLive.subscribe((state, before) => {
    if (before.links.length === 0) for (const link of state.links) void lendAgain(link);
  });
}

/** The port that was lent before, if it is the only one that this page was given. */
async function lendAgain({ id, settings, phase }: LinkView): Promise<void> {
  const isWanted = settings.kind === 'page-serial' && phase !== 'closed' && remembered().includes(id);
  if (!isWanted || devices.has(id) || whyNoSerial()) return;
  const device = await grantedSerialPort(settings.speed ?? 9600).catch(() => undefined);
  if (device) forward(id, device, settings, false);
}

export async function takeBack(linkId: string): Promise<void> {
  remember(linkId, false);
  const device = devices.get(linkId);
  devices.delete(linkId);
  forget(linkId);
  await device?.close();
}

/**
 * Forwards octets both ways; the socket is made anew whenever it ends, as long as the device is there and the link wants it.
 * isByOperator: a click opens the link; afterwards the page only follows it.
 */
function forward(linkId: string, device: LentDevice, settings: LinkSettings, isByOperator: boolean): void {
  devices.set(linkId, device);
  useLending.setState(({ troubles }) => ({ troubles: without(troubles, linkId) }));
  show(linkId, { name: device.name, isForwarding: false, received: 0, sent: 0 });
  let attempt = 0;
  let opens = isByOperator;
  let socket: WebSocket | undefined;
  const isMine = (): boolean => devices.get(linkId) === device;
  const lose = (words: string): void => {
    devices.delete(linkId);
    forget(linkId);
    tell(linkId, words);
    void device.close().catch(() => undefined);
  };
  const connect = (): void => {
    if (!isMine()) return;
    const link = linkOf(linkId);
    if (!link) return lose('the link was removed');
    if (link.settings.speed !== settings.speed) return lose('the speed was changed: choose the port again');
    if (soundText(link.settings.sound) !== soundText(settings.sound))
      return lose('the set-up was changed: open the sound card again');
    if (!opens && !isWantedOpen(linkId)) return void setTimeout(connect, LOOK_AGAIN_MS);
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
    socket = new WebSocket(`${scheme}://${location.host}/api/v1/wire?link=${linkId}${opens ? '&open' : ''}`);
    socket.binaryType = 'arraybuffer';
    socket.onopen = () => {
      attempt = 0;
      opens = false;
      change(linkId, () => ({ isForwarding: true }));
      void device.handOver?.(linkId);
    };
    socket.onmessage = ({ data }: MessageEvent<ArrayBuffer>) => {
      const octets = new Uint8Array(data);
      change(linkId, ({ sent }) => ({ sent: sent + octets.length }));
      device.send(octets).catch((error: unknown) => tell(linkId, wordsOf(error)));
    };
    socket.onclose = ({ code }) => {
      change(linkId, () => ({ isForwarding: false }));
      if (code === TAKEN_OVER) return lose('another page lends its device now');
      setTimeout(connect, RETRY_MS[Math.min(attempt++, RETRY_MS.length - 1)]);
    };
  };
  device.receive((octets) => {
    if (socket?.readyState !== WebSocket.OPEN) return device.missed?.(octets);
    socket.send(octets as Uint8Array<ArrayBuffer>);
    change(linkId, ({ received }) => ({ received: received + octets.length }));
  });
  connect();
  const letSleep = keepAwake();
  void device.closed.then((words) => {
    letSleep();
    if (socket) {
      socket.onclose = null;
      socket.close(isMine() ? UNPLUGGED : 1000);
    }
    if (isMine()) lose(words === '' ? 'the device was closed' : words);
  });
}

const linkOf = (linkId: string): LinkView | undefined =>
  useLive.getState().links.find(({ id }) => id === linkId);

/** The operator has it open, be it failed or waiting; while the server is away nothing is known to have changed. */
function isWantedOpen(linkId: string): boolean {
  const link = linkOf(linkId);
  return link !== undefined && link.phase !== 'closed';
}

function show(linkId: string, lending: Lending): void {
  useLending.setState(({ lendings }) => ({ lendings: new Map(lendings).set(linkId, lending) }));
}

function change(linkId: string, how: (lending: Lending) => Partial<Lending>): void {
  const lending = useLending.getState().lendings.get(linkId);
  if (lending) show(linkId, { ...lending, ...how(lending) });
}

function forget(linkId: string): void {
  useLending.setState(({ lendings }) => ({ lendings: without(lendings, linkId) }));
}

function tell(linkId: string, words: string): void {
  useLending.setState(({ troubles }) => ({ troubles: new Map(troubles).set(linkId, words) }));
}

function without<Value>(map: ReadonlyMap<string, Value>, key: string): ReadonlyMap<string, Value> {
  const rest = new Map(map);
  rest.delete(key);
  return rest;
}

function remembered(): string[] {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '[]') as unknown;
    return Array.isArray(kept) ? kept.filter((one) => typeof one === 'string') : [];
  } catch {
    return [];
  }
}

function remember(linkId: string, isLent: boolean): void {
  const others = remembered().filter((one) => one !== linkId);
  localStorage.setItem(KEY, JSON.stringify(isLent ? [...others, linkId] : others));
}
