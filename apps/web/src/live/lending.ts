import { create } from 'zustand';
import type { LinkKind, LinkView } from '@mistpeak/contract/link';
import { keepAwake } from '../adapters/keep-awake';
import { wordsOf, type CannotLend, type LentDevice } from '../adapters/lent-device';
import { chooseBluetoothTnc, whyNoBluetooth } from '../adapters/web-bluetooth';
import { chooseSerialPort, grantedSerialPort, whyNoSerial } from '../adapters/web-serial';
import { useLive } from './store';

/** The server takes this close code for a device that went away. */
const UNPLUGGED = 4410;
const RETRY_MS = [500, 1000, 2000, 5000] as const;
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
  return kind === 'page-bluetooth' ? whyNoBluetooth() : whyNoSerial();
}

/** Asks for the device and lends it for as long as the page lives. Call it from a click. */
export async function lend({ id, settings }: LinkView): Promise<void> {
  try {
    const isBluetooth = settings.kind === 'page-bluetooth';
    const device = isBluetooth ? await chooseBluetoothTnc() : await chooseSerialPort(settings.speed ?? 9600);
    if (!isBluetooth) remember(id, true);
    forward(id, device);
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
  if (device) forward(id, device);
}

export async function takeBack(linkId: string): Promise<void> {
  remember(linkId, false);
  const device = devices.get(linkId);
  devices.delete(linkId);
  forget(linkId);
  await device?.close();
}

/** Forwards octets both ways; the socket is made anew whenever it ends, as long as the device is there. */
function forward(linkId: string, device: LentDevice): void {
  devices.set(linkId, device);
  useLending.setState(({ troubles }) => ({ troubles: without(troubles, linkId) }));
  show(linkId, { name: device.name, isForwarding: false, received: 0, sent: 0 });
  let attempt = 0;
  let socket: WebSocket;
  const isMine = (): boolean => devices.get(linkId) === device;
  const connect = (): void => {
    if (!isMine()) return;
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
    socket = new WebSocket(`${scheme}://${location.host}/api/v1/wire?link=${linkId}`);
    socket.binaryType = 'arraybuffer';
    socket.onopen = () => {
      attempt = 0;
      change(linkId, () => ({ isForwarding: true }));
    };
    socket.onmessage = ({ data }: MessageEvent<ArrayBuffer>) => {
      const octets = new Uint8Array(data);
      change(linkId, ({ sent }) => ({ sent: sent + octets.length }));
      device.send(octets).catch((error: unknown) => tell(linkId, wordsOf(error)));
    };
    socket.onclose = () => {
      change(linkId, () => ({ isForwarding: false }));
      setTimeout(connect, RETRY_MS[Math.min(attempt++, RETRY_MS.length - 1)]);
    };
  };
  device.receive((octets) => {
    if (socket.readyState !== WebSocket.OPEN) return;
    socket.send(octets as Uint8Array<ArrayBuffer>);
    change(linkId, ({ received }) => ({ received: received + octets.length }));
  });
  connect();
  const letSleep = keepAwake();
  void device.closed.then((words) => {
    letSleep();
    socket.onclose = null;
    socket.close(isMine() ? UNPLUGGED : 1000);
    if (!isMine()) return;
    devices.delete(linkId);
    forget(linkId);
    tell(linkId, words === '' ? 'the device was closed' : words);
    void device.close().catch(() => undefined);
  });
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
