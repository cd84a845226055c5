import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setUpGateways } from './demo-gateways.js';
import { insist } from './insist.js';
import { followMail, setUpMail, type DemoPorts } from './demo-mail.js';
import { setUpWatch } from './demo-watch.js';

/** What the demo remembers between starts. */
interface DemoMemory {
  readonly tncPort: number;
  readonly internetPort?: number;
  readonly mailPort?: number;
  readonly modemPorts?: readonly [number, number];
  readonly radioPort?: number;
  readonly linkId?: string;
}

const OPERATOR = {
  call: 'QH4MPK',
  region: 'europe-africa',
  units: 'metric',
  coordinates: 'decimal',
  place: '29.6320 S 11.4050 W',
};

/** The chain that the demo opens with, by the ids of its parts in the kit, radio first. */
const HUT_PARTS = ['hut-radio', 'hut-cable', 'hut-modem', 'hut-computer', 'mistpeak'];
const SITUATION = { name: '', antenna: 'Whip of the handheld', isMoving: false, schools: {} };
const HUT_CHAIN = { purpose: 'beacon', ...SITUATION, name: 'Base hut', antenna: 'Vertical on a mast' };

/** What the group tried in the weeks before: parts by their ids, and trials as hours before the start. Invented. */
const TRIED = [
  {
    purpose: 'messages',
    parts: ['tnc-handheld', 'tablet', 'phone-map'],
    trials: [
      [500, 'no answer', '', undefined, 'from the valley of Nether Quill'],
      [474, 'works', '', undefined, 'from the ridge path, by Anrick Head'],
      [166, 'works with a trick', 'airplane mode on, Bluetooth on again', undefined, 'at Port Velan'],
      [49, 'works', '', undefined, 'hide below Anrick'],
    ],
  },
  {
    purpose: 'mail',
    parts: ['two-pin-handheld', 'headset-cable', 'tablet', 'phone-mail'],
    trials: [
      [330, 'weak audio', '', -41, 'the plug was not home'],
      [329, 'does not key', '', -19, 'VOX at the wrong end of its scale'],
      [328, 'works with a trick', 'VOX at its other end, volume two steps down', -18, 'QH5VEL-10 answered'],
      [73, 'works', '', -17.5, 'QH5OST-10, two messages'],
    ],
  },
  {
    purpose: 'beacon',
    parts: ['key-handheld'],
    trials: [
      [210, 'works', '', undefined, 'cart C, up to Corvel Top'],
      [98, 'no answer', '', undefined, 'TNC on band B, the channel on A'],
    ],
  },
] as const;
const HUT_TRIALS = [
  [172, 'works', 'the evening of the mast'],
  [14, 'works', 'the evening before the count'],
] as const;
const HOUR_MS = 3_600_000;

const OWN_STATIONS = [
  { ssid: 0, role: 'home', device: 'base hut, FM mobile', symbolTable: '/', symbolCode: '-' },
  { ssid: 5, role: 'phone', device: 'phone app', symbolTable: '/', symbolCode: '[' },
  { ssid: 7, role: 'handheld', device: 'handheld with built-in TNC', symbolTable: '/', symbolCode: '[' },
  { ssid: 9, role: 'mobile', device: 'supply cart', symbolTable: '/', symbolCode: '>' },
];

function site(
  call: string,
  role: string,
  place: string,
  [heightM, powerW, gainDbi]: readonly [number, number, number],
  note: string,
): object {
  return { call, role, place, heightM, powerW, gainDbi, note };
}

/** What the island radio group knows of its hill sites; the heard beacons tell the rest. */
const SITES = [
  site('QH1ANR', 'digipeater', '29.5605 S 11.262 W', [15, 25, 3], 'Anrick Head, WIDE1 and WIDE2'),
  site('QH1TOP', 'digipeater', '29.5684 S 11.4361 W', [8, 10, 3], 'Mistpeak, high and wide'),
  site('QH2FIL-1', 'fill-in', '29.6125 S 11.492 W', [14, 10, -13], 'Nether Quill, among houses'),
  site('QH3PRT-10', 'gateway', '29.7105 S 11.4215 W', [12, 25, -11], 'Port Velan, behind the harbour houses'),
];

/** What feeds the hut. */
const HUT_FIELD = {
  bank: { chemistry: 'LiFePO4', ampHours: 40, cells: 4 },
  loads: [
    { name: 'FM mobile, receiving', amps: 0.5, sharePercent: 100 },
    { name: 'USB packet modem', amps: 0.06, sharePercent: 100 },
    { name: 'Base hut computer', amps: 0.4, sharePercent: 100 },
    { name: 'Transmitting', amps: 4.3, sharePercent: 2 },
  ],
  panelW: 20,
  skyPercent: 60,
  wires: [
    { name: 'radio', oneWayM: 4, areaMm2: 4, amps: 4.8 },
    { name: 'computer', oneWayM: 1.5, areaMm2: 1.5, amps: 0.5 },
    { name: 'isolator, cart battery', oneWayM: 6, areaMm2: 10, amps: 20 },
  ],
  antenna: {
    frequencyMHz: 144.8,
    powerW: 25,
    gainDbi: 4,
    feedLossDb: 1,
    keyedPercent: 10,
    rule: 'ICNIRP',
    group: 'public',
    isHandheld: false,
  },
};

/** Places of the trip. */
const PLACES = [
  { name: 'Base hut', place: '29.632 S 11.405 W', radiusM: 300 },
  { name: 'Corvel crag', place: '29.5639 S 11.5445 W', radiusM: 800 },
  { name: 'Sallomere quay', place: '29.5938 S 11.345 W', radiusM: 400 },
  { name: 'the hide below Anrick', place: '29.575 S 11.27 W', radiusM: 500 },
];

/** The island's services, as their operators describe them. */
const TEXT_FIELD = { name: 'text', label: 'Text', kind: 'text' };
const SERVICES = [
  {
    name: 'Text to a phone',
    addressee: 'HTEXT',
    template: '@{number} {text}',
    fields: [{ name: 'number', label: 'Number', kind: 'number', digits: 7, prefix: '' }, TEXT_FIELD],
    optIn: 'The phone has to have sent “join” to the service once.',
    deliveredMark: 'delivered to',
  },
  {
    name: 'Short mail',
    addressee: 'HMAIL',
    template: '{address} {text}',
    fields: [{ name: 'address', label: 'Mail address', kind: 'address' }, TEXT_FIELD],
    optIn: '',
    deliveredMark: 'sent to',
  },
  {
    name: 'Weather of the island',
    addressee: 'HSKY',
    template: '{ask}',
    fields: [{ name: 'ask', label: 'now, tonight or a village', kind: 'text' }],
    optIn: '',
    deliveredMark: '',
  },
];
const EVENING_COUNT = {
  name: 'Evening count',
  weekday: 3,
  time: '19:00',
  zoneMin: 0,
  addressee: 'COUNTERS',
  template: '{call} {locator} in',
  remindMin: 15,
};

const ANSWERS = { via: '', endOfText: '/EX', charset: 'guess' };
const NODES = [
  {
    ...ANSWERS,
    name: 'Hut mailbox',
    call: 'QH2HUT-1',
    kind: 'mailbox',
    note: 'Port Velan; messages for the teams',
    escapes: 'strip',
  },
  {
    ...ANSWERS,
    name: 'Anrick node',
    call: 'QH2NOD-4',
    kind: 'node',
    note: 'Anrick Head; LOGIN and OTP show how passwords are asked for',
    escapes: 'interpret',
  },
];
const MACROS = [{ name: 'Sign off', text: '73 from the base hut\nB\n' }];

/** Set up, and off until the operator switches it on. */
const INTERNET = {
  isOn: false,
  host: '127.0.0.1',
  call: 'QH4MPK',
  isVerified: true,
  filter: 'r/-29.6/-11.4/50 b/QH4MPK*',
  sends: false,
};

export function mapFolder(data: string): string {
  return join(data, 'map');
}

export function historyFile(data: string): string {
  return join(data, 'history.pcap');
}

export function kitFile(data: string): string {
  return join(data, 'kit.json');
}

export function readMemory(data: string): DemoMemory {
  const file = join(data, 'demo.json');
  return existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as DemoMemory) : { tncPort: 0 };
}

/** Sets the demo station up as a user would, through the server's own commands; a second time it only finds the TNC again. */
export async function setUpDemo(
  address: string,
  data: string,
  ports: DemoPorts,
  nowMs = Date.now(),
): Promise<void> {
  const { tncPort, internetPort } = ports;
  const call = caller(`${address}/api/v1`);
  const { operator } = (await call('GET', '/operator')) as { operator: unknown };
  if (!operator) await call('PUT', '/operator', OPERATOR);
  const settings = {
    name: 'USB packet modem',
    kind: 'network',
    host: '127.0.0.1',
    port: tncPort,
    airRate: 1200,
    txDelayMs: 300,
    persistence: 0.25,
    slotTimeMs: 100,
    txTailMs: 30,
  };
  const links = (await call('GET', '/links')) as { id: string; settings: { port?: number } }[];
  const memory = readMemory(data);
  const known = links.find(({ id }) => id === memory.linkId);
  let linkId = known?.id;
  if (!known && memory.linkId === undefined) {
    linkId = ((await call('POST', '/links', settings)) as { id: string }).id;
    await setUpChain(call, readFileSync(kitFile(data), 'utf8'), linkId, nowMs);
    for (const station of OWN_STATIONS) await call('POST', '/own-stations', station);
    await takeHistory(`${address}/api/v1/links/${linkId}/captures`, historyFile(data));
    await takeElevation(`${address}/api/v1/elevation`, mapFolder(data));
    for (const site of SITES) await call('PUT', '/path-lab/sites', site);
    for (const place of PLACES) await call('POST', '/places', place);
    await setUpMessages(call);
    await setUpTerminal(call, linkId);
    await setUpMail(call, linkId, ports);
    await call('PUT', '/field', HUT_FIELD);
    await call('POST', '/field/readings', { kind: 'full', wasCharged: true, note: 'charged in the village' });
    await setUpGateways(call, nowMs);
    await setUpWatch(call, mapFolder(data), nowMs);
    await call('PUT', '/internet/settings', { ...INTERNET, port: internetPort });
    await call('POST', `/links/${linkId}/open`);
  } else if (known && known.settings.port !== tncPort) {
    await call('PUT', `/links/${known.id}`, { ...known.settings, port: tncPort });
  }
  await followInternet(call, internetPort);
  if (known) await followMail(call, ports);
  const remembered: DemoMemory = {
    tncPort,
    internetPort,
    mailPort: ports.mailPort,
    modemPorts: ports.modemPorts,
    radioPort: ports.radioPort,
    ...((linkId ?? memory.linkId) ? { linkId: (linkId ?? memory.linkId) as string } : {}),
  };
  writeFileSync(join(data, 'demo.json'), JSON.stringify(remembered));
}

/** The stand-in server may listen elsewhere than at the last start; a real one that was entered since stays. */
async function followInternet(call: ReturnType<typeof caller>, port: number): Promise<void> {
  const { settings } = (await call('GET', '/internet')) as { settings?: { host: string; port: number } };
  if (settings?.host === INTERNET.host && settings.port !== port)
    await call('PUT', '/internet/settings', { ...settings, port });
}

async function setUpMessages(call: ReturnType<typeof caller>): Promise<void> {
  const { settings } = (await call('GET', '/messages')) as { settings: object };
  const more = { groups: ['COUNTERS'], nets: [EVENING_COUNT], services: SERVICES };
  await call('PUT', '/messages/settings', { ...settings, ...more });
}

/** Who answers calls on the island, and the operator's own mailbox, on whose SSID nobody answers while the lock is shut. */
async function setUpTerminal(call: ReturnType<typeof caller>, linkId: string): Promise<void> {
  await call('PUT', '/terminal/settings', { nodes: NODES, macros: MACROS });
  const { settings } = (await call('GET', '/mailbox')) as { settings: object };
  const more = { linkId, isOn: true, allowsAutomatic: true, greeting: 'Hollin Seabird Count, base hut' };
  await call('PUT', '/mailbox/settings', { ...settings, ...more, version: undefined });
}

/** The kit, what was tried of it, and the chain on the Bench. */
async function setUpChain(
  call: ReturnType<typeof caller>,
  file: string,
  linkId: string,
  nowMs: number,
): Promise<void> {
  const kit = (await call('PUT', '/kit', { file })) as { id: string }[];
  const partsOf = (ids: readonly string[]) => ids.map((id) => kit.find((item) => item.id === id));
  const save = async (chain: object): Promise<string> =>
    ((await call('POST', '/chains', chain)) as { id: string }).id;
  const tell = (chainId: string, hoursAgo: number, trial: object): Promise<unknown> =>
    call('POST', `/chains/${chainId}/trials`, { settings: {}, atMs: nowMs - hoursAgo * HOUR_MS, ...trial });
  for (const { purpose, parts, trials } of TRIED) {
    const id = await save({ purpose, ...SITUATION, parts: partsOf(parts) });
    for (const [hoursAgo, result, trick, levelDbfs, note] of trials)
      await tell(id, hoursAgo, { result, trick, note, ...(levelDbfs === undefined ? {} : { levelDbfs }) });
  }
  const hut = await save({ ...HUT_CHAIN, parts: partsOf(HUT_PARTS), linkId });
  await call('PUT', `/chains/${hut}/bench`);
  for (const [hoursAgo, result, note] of HUT_TRIALS) await tell(hut, hoursAgo, { result, trick: '', note });
}

/** The island's heights, as an operator would drop them in. */
async function takeElevation(url: string, folder: string): Promise<void> {
  const tiles = existsSync(folder) ? readdirSync(folder).filter((name) => name.endsWith('.hgt')) : [];
  for (const name of tiles) {
    const answer = await insist(`${url}/${name}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/octet-stream' },
      body: readFileSync(join(folder, name)),
    });
    if (!answer.ok) throw new Error(`The elevation of the demo was not taken: ${await answer.text()}`);
  }
}

/** What the base hut heard before the demo began, before anything live is heard. */
async function takeHistory(url: string, file: string): Promise<void> {
  if (!existsSync(file)) return;
  const headers = { 'content-type': 'application/vnd.tcpdump.pcap' };
  const answer = await insist(url, { method: 'POST', headers, body: readFileSync(file) });
  if (!answer.ok) throw new Error(`The history of the demo was not taken: ${await answer.text()}`);
}

function caller(base: string) {
  return async (method: string, path: string, body?: unknown): Promise<unknown> => {
    const json =
      body === undefined
        ? {}
        : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } };
    const answer = await insist(base + path, { method, ...json });
    if (!answer.ok)
      throw new Error(`The demo could not be set up: ${method} ${path}: ${await answer.text()}`);
    return answer.json();
  };
}
