/** Where the stand-ins listen. */
export interface DemoPorts {
  readonly tncPort: number;
  readonly internetPort: number;
  readonly mailPort: number;
  /** Of a modem program: for commands, for data. */
  readonly modemPorts: readonly [number, number];
  readonly radioPort: number;
}

const EVENING_TALLY = {
  name: 'Evening tally',
  to: 'QH3PRT',
  subject: 'Tally of {date}, {hide=hide 1}',
  text: [
    'Hollin Seabird Count, tally of {date} {time} UTC',
    'Hide: {hide=hide 1}   Place: {place}',
    'Terns: {terns=0}',
    'Gannets on nests: {gannets=0}',
    'Guillemots: {guillemots=0}',
    'Weather: {weather=fair}',
    'Remarks: {remarks}',
    'Counted by {counted by}, sent by {call}',
  ].join('\n'),
};

const GATEWAYS = [
  { call: 'QH5VEL-10', frequencyMHz: 144.85, note: 'Port Velan' },
  { call: 'QH5OST-10', frequencyMHz: 144.875, note: 'Ostrick' },
  { call: 'QH5SAL-10', frequencyMHz: 144.9, note: 'Sallomere' },
  { call: 'QH5COR-10', frequencyMHz: 144.925, note: 'Corvel Top; net in the evening' },
  { call: 'QH5QUI-10', frequencyMHz: 144.95, note: 'Nether Quill' },
].map((one) => ({ ...one, via: '' }));

function mailProfiles(linkId: string, { mailPort }: DemoPorts): object[] {
  const usual = { from: 'QH4MPK', gateways: [] as object[], exchanges: 'both', tries: 2 };
  const radio = { ...usual, linkId, gateways: GATEWAYS };
  return [
    { ...radio, id: '6b1d0b5e-3f0e-4a54-9b6e-5d0a4c1e7a01', name: 'Island gateways', way: 'packet' },
    {
      ...radio,
      id: '6b1d0b5e-3f0e-4a54-9b6e-5d0a4c1e7a02',
      name: 'Gateways, radio set by itself',
      way: 'packet',
      radio: 'Base radio',
    },
    {
      ...usual,
      id: '6b1d0b5e-3f0e-4a54-9b6e-5d0a4c1e7a03',
      name: 'Mail service by cable',
      way: 'tcp',
      host: '127.0.0.1',
      port: mailPort,
      word: 'hollin',
    },
    {
      ...radio,
      id: '6b1d0b5e-3f0e-4a54-9b6e-5d0a4c1e7a04',
      name: 'Through the modem program',
      way: 'modem',
      modem: 'Modem program',
      gateways: GATEWAYS.slice(0, 2).map(({ call, via, note }) => ({ call, via, note })),
    },
  ];
}

const modemPortsOf = ({
  modemPorts: [commandPort, dataPort],
}: DemoPorts): { commandPort: number; dataPort: number } => ({ commandPort, dataPort });

/** With the neutral words, which the stand-in speaks. */
const modemProgram = (ports: DemoPorts): object => ({
  name: 'Modem program',
  host: '127.0.0.1',
  ...modemPortsOf(ports),
  card: '',
  words: {
    setOwn: 'OWN {call}',
    askOwn: 'OWN?',
    ownIs: 'OWN IS {call}',
    connect: 'LINK {from} {to} {tries}',
    connected: 'LINKED {to}',
    busy: 'CHANNEL BUSY',
    clear: 'CHANNEL CLEAR',
    buffer: 'WAITING {octets}',
    disconnect: 'UNLINK',
    disconnected: 'UNLINKED',
    abort: 'DROP',
    refused: 'NO {words}',
  },
});

const baseRadio = ({ radioPort }: DemoPorts): object => ({
  name: 'Base radio',
  at: `127.0.0.1:${radioPort}`,
  speed: 9600,
  ending: 'CR',
  words: { set: 'FREQ {hz:10}', ask: 'FREQ?', frequencyIs: 'FREQ {hz} BAND {band}' },
});

/** Says it as a user would, through the server’s own commands. */
type Call = (method: string, path: string, body?: unknown) => Promise<unknown>;

/** The five gateways of the island, a service by TCP, a modem program, a radio that can be told its frequency; an account. */
export async function setUpMail(call: Call, linkId: string, ports: DemoPorts): Promise<void> {
  const { settings } = (await call('GET', '/mail')) as { settings: { templates: object[] } };
  const more = {
    domain: 'mail.hollin.example',
    profiles: mailProfiles(linkId, ports),
    templates: [...settings.templates, EVENING_TALLY],
    listening: { isOn: false, linkId, ssid: 0, allowsAutomatic: false },
    modems: [modemProgram(ports)],
    radios: [baseRadio(ports)],
  };
  await call('PUT', '/mail/settings', { ...settings, ...more, version: undefined });
  await call('PUT', '/mail/account', { keeping: 'folder', password: 'seabird' });
}

/** The stand-ins may listen elsewhere than at the last start; real ones that were entered since stay. */
export async function followMail(call: Call, ports: DemoPorts): Promise<void> {
  interface Kept {
    profiles: { host?: string; port?: number }[];
    modems: { host: string }[];
    radios: { at: string }[];
  }
  const { settings } = (await call('GET', '/mail')) as { settings: Kept };
  const isHere = ({ host }: { host?: string }): boolean => host === '127.0.0.1';
  await call('PUT', '/mail/settings', {
    ...settings,
    version: undefined,
    profiles: settings.profiles.map((one) => (isHere(one) ? { ...one, port: ports.mailPort } : one)),
    modems: settings.modems.map((one) => (isHere(one) ? { ...one, ...modemPortsOf(ports) } : one)),
    radios: settings.radios.map((one) =>
      one.at.startsWith('127.0.0.1:') ? { ...one, at: `127.0.0.1:${ports.radioPort}` } : one,
    ),
  });
}
