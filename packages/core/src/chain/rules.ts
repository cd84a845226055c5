import { connectorName, CONNECTORS, type Signal, type Transport } from '../kit/connectors.js';
import { compareVersions, type Item, type Keying, type Port, type Source } from '../kit/item.js';
import type { SwitchId } from '../kit/switches.js';
import type { Finding, Level } from './chain.js';
import type { Demand } from './purpose.js';

/** What comes through at one place, on its way from the radio to the app. */
export interface Flow {
  readonly signal: Signal;
  readonly transport?: Transport;
  /** How the radio can be keyed from here. */
  readonly keying: readonly Keying[];
}

/** One joint as the rules see it. source: where the radio gives, at the first joint only. host: where an app runs. service: the app whose TCP port is used. */
export interface Meeting {
  readonly from: Item;
  readonly to: Item;
  readonly out?: Port;
  readonly in?: Port;
  readonly flow: Flow;
  readonly source?: Source;
  readonly host?: Item;
  readonly service?: Item;
  readonly demand: Demand;
}

/** A rule of how things go together. source: the document, or that it is the trade's own knowledge. */
export interface Rule {
  readonly id: string;
  readonly level: Level;
  readonly source: string;
  readonly check: (meeting: Meeting) => Omit<Finding, 'rule' | 'level'> | undefined;
}

/** The rule that a part of this kind must be tried first. */
export const UNPROVEN_PART = 'unproven-part';

const PRACTICE = 'common practice, no source';

/** A switch of an item must stand so, for a reason. */
function mustStand(
  item: Item,
  id: SwitchId,
  wanted: string,
  text: string,
  mend: string,
): Omit<Finding, 'rule' | 'level'> | undefined {
  const now = item.switches[id];
  if (now === undefined || now === wanted) return undefined;
  return { itemId: item.id, text, mend, set: { itemId: item.id, switch: id, to: wanted } };
}

/** The radio's own TNC is what gives here. */
const isOwnTnc = ({ source }: Meeting): boolean => source?.gives === 'KISS';

/** By which of its two ways an item's KISS goes out. */
const kissWay = (out: Port | undefined): string => (out?.connector === 'bluetooth' ? 'Bluetooth' : 'USB');

export const RULES: readonly Rule[] = [
  {
    id: 'receive-only',
    level: 'breaks',
    source: PRACTICE,
    check: ({ from, demand }) =>
      from.radio && demand.transmits && !from.radio.transmits
        ? { itemId: from.id, text: 'it only receives', mend: 'Take a radio that transmits.' }
        : undefined,
  },
  {
    id: 'radio-band',
    level: 'breaks',
    source: PRACTICE,
    check: ({ from, demand }) =>
      from.radio && !from.radio.bands.some((band) => demand.bands.includes(band))
        ? {
            itemId: from.id,
            text: `the radio is not for ${demand.bands.join(' or ')}`,
            mend: 'Take another radio.',
          }
        : undefined,
  },
  {
    id: 'firmware',
    level: 'switch',
    source: PRACTICE,
    check: ({ from, source }) =>
      source?.since !== undefined &&
      from.version !== undefined &&
      compareVersions(from.version, source.since) < 0
        ? {
            itemId: from.id,
            text: `firmware ${from.version} gives no KISS there`,
            mend: `Update its firmware to ${source.since} or newer.`,
          }
        : undefined,
  },
  {
    id: 'kiss-off',
    level: 'switch',
    source: PRACTICE,
    check: (meeting) =>
      isOwnTnc(meeting)
        ? mustStand(meeting.from, 'kiss', 'on', 'KISS is off in its menu', 'Switch KISS on.')
        : undefined,
  },
  {
    id: 'kiss-transport',
    level: 'switch',
    source: PRACTICE,
    check: (meeting) =>
      isOwnTnc(meeting)
        ? mustStand(
            meeting.from,
            'kissTo',
            kissWay(meeting.out),
            `KISS goes to ${meeting.from.switches.kissTo ?? 'the other way'}`,
            `Send KISS to ${kissWay(meeting.out)} in its menu.`,
          )
        : undefined,
  },
  {
    id: 'kiss-rate',
    level: 'switch',
    source: PRACTICE,
    check: (meeting) =>
      isOwnTnc(meeting)
        ? mustStand(
            meeting.from,
            'kissRate',
            '1200',
            `KISS is at ${meeting.from.switches.kissRate ?? 'another rate'}`,
            'Set KISS to 1200: 9600 works only where both ends do it.',
          )
        : undefined,
  },
  {
    id: 'own-beacon',
    level: 'switch',
    source: PRACTICE,
    check: (meeting) =>
      isOwnTnc(meeting)
        ? mustStand(
            meeting.from,
            'ownBeacon',
            'off',
            'own beaconing is on, and uses the same TNC',
            'Switch its own beaconing off.',
          )
        : undefined,
  },
  {
    id: 'tnc-band',
    level: 'switch',
    source: PRACTICE,
    check: (meeting) =>
      isOwnTnc(meeting) && meeting.from.switches.band !== undefined
        ? mustStand(
            meeting.from,
            'tncBand',
            meeting.from.switches.band,
            `the TNC listens to band ${meeting.from.switches.tncBand ?? '?'}, the channel is on ${meeting.from.switches.band}`,
            `Set the TNC to band ${meeting.from.switches.band}.`,
          )
        : undefined,
  },
  {
    id: 'mode',
    level: 'switch',
    source: PRACTICE,
    check: ({ from }) =>
      from.radio?.bands.includes('VHF FM')
        ? mustStand(
            from,
            'mode',
            'FM',
            `it is set to ${from.switches.mode ?? 'another mode'}`,
            'Set it to FM.',
          )
        : mustStand(
            from,
            'mode',
            'upper sideband data',
            'it is not in data mode',
            'Set upper sideband data.',
          ),
  },
  {
    id: 'data-sounds',
    level: 'switch',
    source: PRACTICE,
    check: ({ from }) =>
      from.radio
        ? mustStand(
            from,
            'dataSounds',
            'heard',
            'data sounds are muted, on some sets the data too',
            'Switch the muting of data sounds off.',
          )
        : undefined,
  },
  {
    id: 'serial-profile',
    level: 'breaks',
    source: PRACTICE,
    check: ({ out, in: into, to }) =>
      out?.profiles && into?.profiles && !out.profiles.some((profile) => into.profiles?.includes(profile))
        ? {
            itemId: to.id,
            text: into.profiles.includes('serial')
              ? 'it speaks Bluetooth LE only, the other side the serial profile only'
              : `${to.host?.hostClass ?? 'this'} gives apps no serial profile`,
            mend: 'A Bluetooth-serial bridge, a TNC that speaks Bluetooth LE, or an audio cable.',
          }
        : undefined,
  },
  {
    id: 'usb-role',
    level: 'breaks',
    source: PRACTICE,
    check: ({ to, in: into }) =>
      to.host && into?.usb === 'device'
        ? {
            itemId: to.id,
            text: 'its USB is for charging and for computers: it takes no devices',
            mend: 'Take a host whose USB takes devices.',
          }
        : undefined,
  },
  {
    id: 'paired-elsewhere',
    level: 'switch',
    source: PRACTICE,
    check: ({ from, out, to }) =>
      out?.connector === 'bluetooth' && from.switches.pairedWith && from.switches.pairedWith !== to.name
        ? {
            itemId: from.id,
            text: `it is paired with ${from.switches.pairedWith}`,
            mend: `Forget ${from.switches.pairedWith} there, and pair it here.`,
            set: { itemId: from.id, switch: 'pairedWith', to: to.name },
          }
        : undefined,
  },
  {
    id: 'app-opens',
    level: 'breaks',
    source: PRACTICE,
    check: ({ to, flow }) => {
      const { app } = to;
      if (!app || app.opens.some((one) => opens(one, flow))) return undefined;
      const ways = app.opens.map(({ signal, over }) => `${signal} over ${over.join(', ')}`).join('; ');
      return {
        itemId: to.id,
        text: `${to.name} cannot open ${flowName(flow)}`,
        mend: `It opens ${ways}.`,
      };
    },
  },
  {
    id: 'tcp-port',
    level: 'switch',
    source: PRACTICE,
    check: ({ to, flow, service }) => {
      const served = service?.switches.tcpPort;
      return flow.transport === 'TCP' && to.app && served !== undefined
        ? mustStand(
            to,
            'tcpPort',
            served,
            `it looks for port ${to.switches.tcpPort ?? '?'}, the modem listens on ${served}`,
            `Set its KISS port to ${served}.`,
          )
        : undefined;
    },
  },
  {
    id: 'network',
    level: 'switch',
    source: PRACTICE,
    check: ({ from, to, out, in: into, host }) => {
      if (out?.connector !== 'network' || into?.connector !== 'network') return undefined;
      const [near, far] = [(host ?? from).switches.wireless ?? 'joined', to.switches.wireless ?? 'joined'];
      if (near === 'joined' && far === 'joined') return undefined;
      if (near === 'own hotspot' && far === 'joined') return undefined;
      if (near === 'joined' && far === 'own hotspot') return undefined;
      const silent = near === 'off' ? (host ?? from) : to;
      return {
        itemId: silent.id,
        text: near === far ? 'both have a network of their own or none' : `${silent.name} is on no network`,
        mend: 'Let one make a hotspot and the other join it.',
        set: { itemId: silent.id, switch: 'wireless', to: 'joined' },
      };
    },
  },
  {
    id: UNPROVEN_PART,
    level: 'risk',
    source: PRACTICE,
    check: ({ to }) =>
      to.isUnproven
        ? {
            itemId: to.id,
            text: 'untested: some of this kind fail without a word, the phone maker’s own is the safe one',
          }
        : undefined,
  },
  {
    id: 'open-air',
    level: 'risk',
    source: PRACTICE,
    check: ({ out, from }) =>
      out?.connector === 'open-air'
        ? { itemId: from.id, text: 'through the air it decodes clearly fewer packets than by cable' }
        : undefined,
  },
  {
    id: 'not-here',
    level: 'risk',
    source: PRACTICE,
    check: ({ to, from }) => {
      const away = [from.radio ? from : undefined, to].find((item) => item && !item.isHere);
      return away ? { itemId: away.id, text: `${away.name} is not at hand` } : undefined;
    },
  },
  {
    id: 'headless',
    level: 'risk',
    source: PRACTICE,
    check: ({ to }) =>
      to.host && !to.host.hasScreen
        ? { itemId: to.id, text: 'it has no screen: all must come up by itself after a cold start' }
        : undefined,
  },
];

const opens = (
  { signal, over }: { readonly signal: Signal; readonly over: readonly Transport[] },
  flow: Flow,
): boolean => signal === flow.signal && flow.transport !== undefined && over.includes(flow.transport);

export const flowName = ({ signal, transport }: Flow): string =>
  signal === 'audio' ? 'sound' : `${signal}${transport ? ` over ${transport}` : ''}`;

/** All that the rules say of one joint. */
export function judge(meeting: Meeting): readonly Finding[] {
  return RULES.flatMap(({ id, level, check }) => {
    const found = check(meeting);
    return found ? [{ rule: id, level, ...found }] : [];
  });
}

/** What a joint is called under its line. */
export function jointName({ out, in: into, flow, to }: Meeting): string {
  if (to.app) return appJointName(flow);
  if (out?.connector === 'bluetooth')
    return `Bluetooth ${into?.profiles?.find((one) => out.profiles?.includes(one)) ?? ''}`.trim();
  if (out?.connector === 'network') return 'KISS over the network';
  return out ? (CONNECTORS[out.connector].family === 'USB' ? 'USB' : connectorName(out.connector)) : '';
}

function appJointName(flow: Flow): string {
  if (flow.signal === 'audio') return 'software modem';
  return flow.transport === 'TCP' ? `${flow.signal} over TCP` : flow.signal;
}
