import type { ChainSettings, ChainView } from '@mistpeak/contract/chain';
import { command } from '../api';

/** As the operator calls it, or by its ends. */
export function chainName({ name, parts }: ChainView): string {
  const [radio, app] = [parts[0]?.name ?? '', parts.at(-1)?.name ?? ''];
  return name || (radio === app ? `${radio} alone` : `${radio} to ${app}`);
}

/** What of a chain the operator can change. */
export function settingsOf(chain: ChainView): ChainSettings {
  const { name, purpose, parts, radioPort, antenna, isMoving, schools, linkId } = chain;
  return {
    ...{ name, purpose, parts, antenna, isMoving, schools },
    ...(radioPort === undefined ? {} : { radioPort }),
    ...(linkId ? { linkId } : {}),
  };
}

/** Saves a chain; one that was only taken for granted until now becomes a chain of its own, on the Bench. */
export async function saveChain(id: string, settings: ChainSettings): Promise<ChainView> {
  if (!id.startsWith('unnamed-')) return command<ChainView>('PUT', `/chains/${id}`, settings);
  const { id: made } = await command<ChainView>('POST', '/chains', settings);
  return command<ChainView>('PUT', `/chains/${made}/bench`);
}
