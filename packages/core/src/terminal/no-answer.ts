/** Why nobody answers a call, the likeliest first for what is known, each with the test that tells. */
export interface CallFacts {
  readonly to: string;
  readonly via: readonly string[];
  /** Frames of ours were heard back from a digipeater, or a second receiver. */
  readonly wasEchoed: boolean;
  /** Anything was heard on this link while it was called. */
  readonly heardSince: number;
  /** When the station was last heard, ms ago; undefined: never. */
  readonly lastHeardAgoMs: number | undefined;
  /** Each digipeater of the way: when it was last heard, ms ago. */
  readonly viaHeardAgoMs: readonly (number | undefined)[];
  /** A station heard that differs by a slip of the keyboard. */
  readonly meant?: string;
  readonly frequencyMHz?: number;
  readonly savedFrequencyMHz?: number;
}

export interface Cause {
  readonly cause: string;
  readonly test: string;
}

const LATELY_MS = 3_600_000;

/** job order: what costs no air time and is often wrong comes first (common practice, no source). */
export function causesOfNoAnswer(facts: CallFacts): readonly Cause[] {
  const {
    to,
    via,
    wasEchoed,
    heardSince,
    lastHeardAgoMs,
    viaHeardAgoMs,
    meant,
    frequencyMHz,
    savedFrequencyMHz,
  } = facts;
  const deaf = via.filter((_, i) => (viaHeardAgoMs[i] ?? Infinity) > LATELY_MS);
  const isElsewhere =
    savedFrequencyMHz !== undefined &&
    frequencyMHz !== undefined &&
    Math.abs(savedFrequencyMHz - frequencyMHz) > 0.0005;
  const causes: (Cause & { readonly weight: number })[] = [
    ...(meant === undefined
      ? []
      : [
          {
            weight: 9,
            cause: `The call is mistyped: ${meant} was heard, ${to} never was.`,
            test: `Call ${meant}.`,
          },
        ]),
    ...(isElsewhere
      ? [
          {
            weight: 8,
            cause: `It listens on ${savedFrequencyMHz.toFixed(3)} MHz, and the link is set to ${frequencyMHz.toFixed(3)} MHz.`,
            test: 'Set the radio, on the right band, and call again.',
          },
        ]
      : []),
    ...deaf.map((digipeater) => ({
      weight: 7,
      cause: `${digipeater} was not heard within the hour: it may not carry the call on.`,
      test: 'Call without it, or through one that you hear.',
    })),
    ...(heardSince === 0
      ? [
          {
            weight: 6,
            cause:
              'Nothing at all was heard meanwhile: wrong band or frequency, squelch, volume, or KISS not on this port.',
            test: 'Wait for any packet on this channel; open the squelch; compare the frequency.',
          },
        ]
      : []),
    ...(wasEchoed
      ? []
      : [
          {
            weight: heardSince === 0 ? 4 : 5,
            cause: 'The call may not be on the air: nothing of it was heard back.',
            test: 'Look at the transmit lamp, or send one beacon and wait for its repeat.',
          },
        ]),
    {
      weight: lastHeardAgoMs === undefined ? 4.5 : lastHeardAgoMs > LATELY_MS ? 3.5 : 1,
      cause:
        lastHeardAgoMs === undefined
          ? `${to} was never heard here: it may be out of reach, off, or on another frequency.`
          : `${to} was heard ${agoWords(lastHeardAgoMs)} ago: it may be off now.`,
      test:
        via.length === 0
          ? 'Call by way of a digipeater between you, or from higher.'
          : 'Try another way, or from higher.',
    },
    {
      weight: 3,
      cause:
        'It does not answer on this SSID: gateways are mostly on -10, personal mailboxes on -1, stations on none.',
      test: 'Call the same station with another SSID.',
    },
    {
      weight: 2,
      cause: 'Its answer is lost: it hears you, and you do not hear it, or others send at the same time.',
      test: 'Call again when the channel is quiet; set longer timers.',
    },
  ];
  return causes.sort((a, b) => b.weight - a.weight).map(({ cause, test }) => ({ cause, test }));
}

function agoWords(ms: number): string {
  const minutes = Math.round(ms / 60_000);
  if (minutes < 60) return `${minutes} min`;
  return minutes < 2880 ? `${Math.round(minutes / 60)} h` : `${Math.round(minutes / 1440)} days`;
}
