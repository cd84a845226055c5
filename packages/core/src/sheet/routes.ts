import { DEMANDS } from '../chain/purpose.js';
import type { SheetContext } from './context.js';

/** What leaves, by which way, how often: for each thing of the chain that can send. */
export interface Route {
  readonly what: string;
  readonly by: 'radio' | 'internet';
  readonly state: string;
}

/** Every way out of a chain, those that must be off too: a track that came by internet proves no radio. */
export function routesOf(context: SheetContext): readonly Route[] {
  const { chain, isMoving, option } = context;
  const [radio] = chain.stones;
  const app = chain.stones.at(-1)?.item;
  const isAlone = chain.stones.length === 1;
  const interval = isMoving ? '2 min, or by speed and turns' : option('fixedBeacon');
  const routes: Route[] = [];
  if (isAlone && radio && chain.purpose === 'messages')
    routes.push({ what: `${radio.item.name}, own messages`, by: 'radio', state: 'as they are written' });
  if (radio?.item.radio?.hasTracker)
    routes.push({ what: `${radio.item.name}, own beacon`, by: 'radio', state: isAlone ? interval : 'off' });
  if (isAlone || !app?.app) return routes;
  if (chain.purpose === 'beacon')
    routes.push({ what: `${app.name}, position`, by: 'radio', state: interval });
  if (chain.purpose === 'messages')
    routes.push(
      { what: `${app.name}, messages and their acknowledgements`, by: 'radio', state: 'as they are written' },
      { what: `${app.name}, position`, by: 'radio', state: interval },
    );
  if (!DEMANDS[chain.purpose].transmits) routes.push({ what: app.name, by: 'radio', state: 'receives only' });
  if (DEMANDS[chain.purpose].isSession)
    routes.push({ what: `${app.name}, session`, by: 'radio', state: 'when you call' });
  if (!app.app.isMistpeak && !DEMANDS[chain.purpose].isSession)
    routes.push({
      what: `${app.name}, position and gating`,
      by: 'internet',
      state: 'off until the radio is proved',
    });
  return routes;
}
