import { ALL_WELL, type PracticeOrder } from '@mistpeak/core/drills/practice';
import { USUAL_DUPLICATE_WINDOW_MS } from '@mistpeak/core/digipeating/digipeater';
import type { Clock } from '@mistpeak/link/clock';
import { gate } from '../internet-server/gate.js';
import { Hub } from '../internet-server/hub.js';
import { service, SERVICES } from '../services/services.js';
import { digipeater } from '../digipeater/digipeater.js';
import { RadioChannel, type RadioSet } from '../radio-channel/radio-channel.js';
import { answering } from '../stations/answering.js';
import { beaconing } from '../stations/beaconing.js';
import { calling } from '../connected/caller.js';
import { ConnectedEnd } from '../connected/connected-end.js';
import { HutMailbox } from '../connected/hut-mailbox.js';
import { nodeAnswer } from '../connected/node.js';
import { mailGateway } from '../mail/gateways.js';
import { MailService } from '../mail/mail-service.js';
import { castOf, HUT_MAILBOX, HUT_SITE, MAIL_GATEWAYS, NODE, type CastMember } from '../stations/cast.js';
import { placeReport } from '../stations/reports.js';
import { PLACES } from '../terrain/places.js';
import { makeIsland, type Island } from '../terrain/island.js';
import { makeRoads, type Road } from '../terrain/roads.js';
import { seededDice } from '@mistpeak/core/network/dice';
import { Ears } from './ears.js';

/** The operator's own set, in the base hut; its TNC attaches it. */
export const OPERATOR_SET = 'operator';
const CHANNEL_MHZ = 144.8;
/** The gate between the island's radio and its internet side. */
const GATE = 'QH3PRT-10';

/** Who takes messages, and what is answered to a question there; the others are deaf or have no keyboard. */
const ANSWERS: Readonly<Record<string, string | undefined>> = {
  'QH3PRT-10': undefined,
  'QH7CTA-9': 'two lamps left, where to?',
  'QH7CTC-9': 'at hide 2 in a quarter of an hour',
  'QH8CLA-7': '41 terns, 6 gannets on nests',
  'QH8BTA-8': 'counting until five',
};

/** The ground never changes with the seed of the dice: it is a place. */
const ISLAND_SEED = 1;

export interface Land {
  readonly island: Island;
  readonly roads: readonly Road[];
}

export function makeLand(): Land {
  const island = makeIsland(ISLAND_SEED);
  return { island, roads: makeRoads(island) };
}

export interface World {
  readonly channel: RadioChannel;
  readonly ears: Ears;
  /** The internet side. */
  readonly hub: Hub;
  readonly mail: MailService;
  /** What is the matter from now on; whatever was before is over. */
  readonly suffer: (order: PracticeOrder) => void;
  readonly end: () => void;
  readonly leftovers: () => number;
}

/** Hollin Island with everybody on its channel, by this clock, from this seed. closedServices: those that are silent. */
export function makeWorld(
  clock: Clock,
  seed: number,
  { island, roads }: Land,
  closedServices: readonly string[] = [],
): World {
  const ears = new Ears(island.ground, CHANNEL_MHZ);
  const channel = new RadioChannel(clock, seededDice(seed), (receiver, sender) =>
    ears.hear(receiver, sender, clock.nowMs()),
  );
  const hub = new Hub(clock);
  const mail = new MailService(clock, seededDice(seed + 1));
  ears.place(OPERATOR_SET, HUT_SITE);
  let order = ALL_WELL;
  const says = new Map<string, (to: string, text: string) => void>();
  const stops = castOf(island, roads).flatMap((member) => {
    ears.place(member.call, member.site);
    if (member.call === CALLER_OF) ears.place(CALLER, member.site);
    const { set, end, say } = setOf(channel, clock, mail, member, () => order);
    if (say) says.set(member.call, say);
    if (member.call === GATE) gate(channel, clock, hub, set);
    return [...member.beacons.map((plan) => beaconing(channel, clock, set, plan)), end];
  });
  const caller = new ConnectedEnd(channel, clock, CALLER, undefined);
  stops.push(calling(caller, clock, CALLS), () => caller.end());
  const closings = Object.entries(SERVICES)
    .filter(([name]) => !closedServices.includes(name))
    .map(([name, answers]) =>
      service(hub, clock, name, answers, () => !order.faults.includes('service-closed')),
    );
  let endOfDouble = (): void => undefined;
  return {
    channel,
    ears,
    hub,
    mail,
    suffer: (now) => {
      order = now;
      endOfDouble();
      endOfDouble =
        now.faults.includes('ssid') && now.ownCall
          ? double(channel, ears, clock, now.ownCall)
          : () => undefined;
      if (now.says) says.get(now.says.from)?.(now.says.to, now.says.text);
    },
    end: () => {
      endOfDouble();
      for (const stop of [...stops, ...closings]) stop();
      channel.end();
    },
    leftovers: () => channel.leftovers(),
  };
}

/** Team A has a set of its own for calls: the handheld at its belt goes on with its beacons. */
const CALLER = 'QH8CLA-5';
const CALLER_OF = 'QH8CLA-7';
const CALLS = {
  to: 'QH4MPK-1',
  via: ['QH1TOP'],
  addressee: 'QH4MPK',
  subject: 'tally of team A,',
  lines: ['41 terns, 6 gannets on nests', 'fog since four'],
};

function setOf(
  channel: RadioChannel,
  clock: Clock,
  mail: MailService,
  { call, digipeater: role }: CastMember,
  order: () => PracticeOrder,
): { readonly set: RadioSet; readonly end: () => void; readonly say?: (to: string, text: string) => void } {
  if (call === HUT_MAILBOX) return connected(new ConnectedEnd(channel, clock, call, new HutMailbox().answer));
  if (call === NODE) return connected(new ConnectedEnd(channel, clock, call, nodeAnswer));
  if ((MAIL_GATEWAYS as readonly string[]).includes(call))
    return connected(mailGateway(channel, clock, mail, call, () => order().gateways[call]));
  if (!role && call in ANSWERS) return answering(channel, clock, call, ANSWERS[call]);
  const set: RadioSet = role
    ? digipeater(
        channel,
        clock,
        { call, role, duplicateWindowMs: USUAL_DUPLICATE_WINDOW_MS },
        () => !order().faults.includes('path'),
      )
    : { name: call };
  if (!role) channel.attach(set);
  return { set, end: () => undefined };
}

/** Somebody in Ostrick has given his tracker the same call-SSID. Returns its end. */
function double(channel: RadioChannel, ears: Ears, clock: Clock, call: string): () => void {
  const set: RadioSet = { name: call };
  ears.place(call, () => ({ position: PLACES.ostrick, heightM: 2, powerW: 10, gainDbi: 0 }));
  channel.attach(set);
  const stop = beaconing(channel, clock, set, {
    path: 'WIDE1-1,WIDE2-1',
    everyMs: 40_000,
    phaseMs: 11_000,
    info: () => placeReport(PLACES.ostrick, '/>', 'tracker'),
  });
  return () => {
    stop();
    channel.detach(set);
  };
}

const connected = (one: ConnectedEnd): { readonly set: RadioSet; readonly end: () => void } => ({
  set: one.set,
  end: () => one.end(),
});
