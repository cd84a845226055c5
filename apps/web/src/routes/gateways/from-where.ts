import { useMemo } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { neighbouringSquares, formatLocator } from '@mistpeak/core/geo/locator';
import { parsePlace } from '@mistpeak/core/geo/place';
import type { Position } from '@mistpeak/core/geo/position';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useDraft } from '../../live/draft';
import { useHere } from '../../live/here';
import { useLive } from '../../live/store';

const HERE = 'here';
export const TYPED = 'typed';

/** From where the order is reckoned. square: of a place that was given as a locator of 4 or 6 signs. */
export interface FromWhere {
  readonly chosen: string;
  readonly typed: string;
  readonly position: Position | undefined;
  readonly square: string | undefined;
  readonly wrong: string | undefined;
  readonly choices: readonly { readonly id: string; readonly words: string }[];
  readonly choose: (chosen: string) => void;
  readonly type: (typed: string) => void;
}

/** Here, a place of the trip, or one that is typed or pressed on the map; remembered in this browser. */
export function useFromWhere(operator: OperatorView): FromWhere {
  const here = useHere(operator);
  const hasFix = useLive((state) => state.whereabouts.fix !== undefined);
  const places = useLive((state) => state.places);
  const { values, set } = useDraft('gateways from', { chosen: HERE, typed: '' });
  const saved = places.find(({ id }) => id === values.chosen);
  const chosen = saved || values.chosen === TYPED ? values.chosen : HERE;
  return useMemo(() => {
    const text = chosen === TYPED ? values.typed : (saved?.place ?? '');
    const parsed = chosen === HERE ? here?.position : parsePlace(text);
    const isRead = parsed !== undefined && !isMalformed(parsed);
    return {
      chosen,
      typed: values.typed,
      position: isRead ? parsed : undefined,
      square: isRead && /^[a-z]{2}\d{2}(?:[a-z]{2})?$/i.test(text.trim()) ? text.trim() : undefined,
      wrong:
        chosen === TYPED && values.typed.trim() !== '' && isMalformed(parsed) ? parsed.malformed : undefined,
      choices: [
        { id: HERE, words: hasFix ? 'here, by the receiver' : 'my place' },
        ...places.map(({ id, name }) => ({ id, words: name })),
        { id: TYPED, words: 'another place …' },
      ],
      choose: (next) => set({ ...values, chosen: next }),
      type: (typed) => set({ chosen: TYPED, typed }),
    };
    // set is of this render and does the same in each.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [chosen, values, saved, here?.position, hasFix, places]);
}

/** Whether a place lies in that square or one that touches it. */
export function squareTest(square: string): (position: Position) => boolean {
  const squares = neighbouringSquares(square);
  if (isMalformed(squares)) return () => true;
  const names = new Set(squares);
  return (position) => {
    const name = formatLocator(position, square.length);
    return !isMalformed(name) && names.has(name);
  };
}
