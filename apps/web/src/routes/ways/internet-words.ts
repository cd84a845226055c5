import type { InternetView } from '@mistpeak/contract/internet';

/** What is wrong, and what to try. */
const TROUBLE: Record<NonNullable<InternetView['trouble']>, string> = {
  'no connection':
    'The server cannot be reached. Compare host and port, and see whether this machine has internet at all.',
  'no banner':
    'Somebody is there and says nothing: these servers speak first. It is another program; compare the port.',
  'not such a server': 'What answers there is no server of the internet service. Compare host and port.',
  'no answer to the login':
    'The server took the login and did not answer. It may be overloaded: try another.',
  'login refused': 'The server refuses the login. Compare the call, or try another server.',
  'demo call on a real server':
    'This is no stand-in, and demo calls never leave stand-ins. Use your own call, or the stand-in of the demo.',
  silent: 'The server fell silent for two minutes: the way to it is broken somewhere.',
  closed: 'The server closed the connection.',
};

/** How the internet side stands, in one sentence. */
export function internetInWords({
  settings,
  phase,
  trouble,
  server,
  isVerified,
  isStandIn,
}: InternetView): string {
  if (!settings) return 'The internet side has not been set up. Everything here is radio alone.';
  switch (phase) {
    case 'off':
      return 'The internet side is off: everything that is heard came by radio.';
    case 'connecting':
      return `Reaching ${settings.host} …`;
    case 'greeting':
    case 'login':
      return `${settings.host} is reached; logging in as ${settings.call} …`;
    case 'apart':
      return `Not connected: ${trouble === undefined ? 'it is tried again.' : TROUBLE[trouble]}`;
    case 'in':
      return `Connected to ${server ?? settings.host}${isStandIn ? ', a stand-in' : ''}, ${isVerified ? 'verified' : 'not verified: it sends to us, and takes nothing from us'}.`;
  }
}
