/**
 * How a packet came into the internet service (public connection description of APRS-IS, "q constructs"): one entry of the
 * path begins with q, and the next one names the gateway or server.
 */
export interface InternetWay {
  readonly construct: string;
  /** The station that brought it in. */
  readonly by?: string;
  /** Whether it proves that the packet was on the air. */
  readonly radio: 'yes' | 'perhaps' | 'no';
  readonly meaning: string;
}

const CONSTRUCTS: Readonly<Record<string, Omit<InternetWay, 'construct' | 'by'>>> = {
  qAR: { radio: 'yes', meaning: 'a gateway heard it on radio' },
  qAr: { radio: 'yes', meaning: 'a gateway heard it on radio, and another server passed it on' },
  qAO: {
    radio: 'perhaps',
    meaning: 'a receive-only gateway sent it: it suggests radio, and does not prove it',
  },
  qAo: {
    radio: 'no',
    meaning: 'a client-only port handed it on for another station: it says nothing of radio',
  },
  qAC: { radio: 'no', meaning: 'its own program sent it over a verified connection' },
  qAX: { radio: 'no', meaning: 'its own program sent it over a connection that is not verified' },
  qAU: { radio: 'no', meaning: 'its own program sent it as a datagram' },
  qAS: { radio: 'no', meaning: 'a server passed it on without saying how it came' },
  qAZ: { radio: 'no', meaning: 'a server command: it is not passed on' },
  qAI: { radio: 'no', meaning: 'a trace: every server signs' },
};

/** Undefined where the path has no q construct, as on radio. */
export function readInternetWay(path: readonly string[]): InternetWay | undefined {
  const at = path.findIndex((entry) => /^q[A-Z][A-Za-z]$/.test(entry));
  const construct = path[at];
  if (construct === undefined) return undefined;
  const known = CONSTRUCTS[construct] ?? {
    radio: 'no' as const,
    meaning: 'a construct that is not published',
  };
  const by = path[at + 1];
  return { construct, ...(by === undefined ? {} : { by }), ...known };
}
