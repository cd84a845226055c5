import type { AprsSymbol } from '@mistpeak/core/aprs/report';
import { symbolName, symbolOverlay } from '@mistpeak/core/aprs/symbols';
import { drawingOf } from './symbol-drawings';

/** A symbol of the published tables in our own drawing, with its overlay character. The word for it stands beside it or in its title. */
export function SymbolMark({ symbol, size = 22 }: { symbol: AprsSymbol; size?: number }) {
  const name = symbolName(symbol);
  const path = drawingOf(name);
  const overlay = symbolOverlay(symbol);
  return (
    <svg width={size} height={size} viewBox="0 0 24 24" role="img" aria-label={name} className="shrink-0">
      <title>{name}</title>
      {path ? (
        <path
          d={path}
          fill="none"
          stroke="currentColor"
          strokeWidth="1.7"
          strokeLinejoin="round"
          strokeLinecap="round"
        />
      ) : (
        // Without a name and a drawing: its table and code, as they are sent.
        <text x="12" y="17" textAnchor="middle" fontSize="13" className="font-mono" fill="currentColor">
          {name.startsWith('symbol ') ? `${symbol.table}${symbol.code}` : symbol.code}
        </text>
      )}
      {overlay && (
        <text
          x="19"
          y="22"
          textAnchor="middle"
          fontSize="11"
          fontWeight="700"
          className="font-mono"
          fill="currentColor"
          stroke="var(--sheet)"
          strokeWidth="3"
          paintOrder="stroke"
        >
          {overlay}
        </text>
      )}
    </svg>
  );
}
