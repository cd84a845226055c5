/** As the group saved it at home. Invented. */
const ISLAND_LIST = [
  'Call,Frequency MHz,Latitude,Longitude,Mode,Height,Hours,Notes',
  'QH5VEL-10,144.850,-29.7105,-11.4215,packet 1200,20,,"harbour mast, Port Velan"',
  'QH5OST-10,144.875,-29.5322,-11.3068,packet 1200,18,06-22,Ostrick school',
  'QH5SAL-10,144.900,-29.5938,-11.3450,packet 1200,10,,"Sallomere quay, often silent"',
  'QH5COR-10,144.925,-29.5639,-11.5445,packet 1200,12,,Corvel Top; net in the evening',
  'QH5QUI-10,144.950,-29.6125,-11.4920,packet 1200,15,,Nether Quill',
].join('\n');

const MAPPING = {
  Call: 'call',
  'Frequency MHz': 'MHz',
  Latitude: 'latitude',
  Longitude: 'longitude',
  Mode: 'mode',
  Height: 'height',
  Hours: 'hours',
  Notes: 'notes',
};

const MORE = [
  {
    kind: 'mailbox',
    call: 'QH2HUT-1',
    frequencyMHz: 144.8,
    place: [-29.7105, -11.4215],
    notes: 'personal mailbox',
  },
  {
    kind: 'node',
    call: 'QH2NOD-4',
    frequencyMHz: 144.8,
    place: [-29.5605, -11.262],
    notes: 'node, Anrick Head',
  },
];

/** Tries of the days before, as hours before the start, and who told of them. Invented. */
const TRIES = [
  ['QH5VEL-10', 20, true, ''],
  ['QH5VEL-10', 44, true, ''],
  ['QH5VEL-10', 69, false, ''],
  ['QH5OST-10', 21, true, ''],
  ['QH5SAL-10', 20, false, ''],
  ['QH5SAL-10', 44, false, ''],
  ['QH5SAL-10', 45, false, ''],
  ['QH5COR-10', 30, true, 'QH7CTB'],
  ['QH5QUI-10', 27, true, 'QH8CLA'],
] as const;
/** A walk of two days before, in hours before the start. Invented. */
const TRIP = {
  name: 'The hide below Anrick',
  place: 'the hide below Anrick',
  fromHoursAgo: 52,
  toHoursAgo: 42,
  better: 'Two more metres of mast, and call QH5OST-10 before eight in the evening.',
};
const HOUR_MS = 3_600_000;
const HUT = { latitudeDeg: -29.632, longitudeDeg: -11.405 };

export async function setUpGateways(
  call: (method: string, path: string, body?: unknown) => Promise<unknown>,
  nowMs: number,
): Promise<void> {
  await call('POST', '/gateways/lists', {
    by: 'file',
    name: 'island-gateways.csv',
    text: ISLAND_LIST,
    mapping: MAPPING,
    usualKind: 'mail gateway',
  });
  await call('POST', '/gateways/facts', {
    by: 'hand',
    name: '',
    facts: MORE.map(({ place: [latitudeDeg, longitudeDeg], ...one }) => ({
      ...one,
      position: { latitudeDeg, longitudeDeg },
      mode: 'packet 1200',
      hours: '',
    })),
  });
  for (const [station, hoursAgo, answered, reporter] of TRIES)
    await call('POST', '/gateways/reports', {
      call: station,
      atMs: Math.round(nowMs - hoursAgo * HOUR_MS),
      answered,
      reporter,
      ...(reporter === '' ? { from: HUT } : {}),
    });
  const { fromHoursAgo, toHoursAgo, ...trip } = TRIP;
  await call('POST', '/logbook/trips', {
    ...trip,
    fromMs: Math.round(nowMs - fromHoursAgo * HOUR_MS),
    toMs: Math.round(nowMs - toHoursAgo * HOUR_MS),
  });
}
