import { useState } from 'react';
import type { AprsSymbol } from '@mistpeak/core/aprs/report';
import { ALL_SYMBOLS, COMMON_SYMBOLS, symbolName, symbolOverlay } from '@mistpeak/core/aprs/symbols';
import { Button } from './button';
import { SearchField } from './search-field';
import { SymbolMark } from './symbol-mark';

/** All symbols of the published tables, by picture and by name; an overlay on those of the alternate table. */
export function SymbolPicker({ symbol, take }: { symbol: AprsSymbol; take: (symbol: AprsSymbol) => void }) {
  const [isOpen, setOpen] = useState(false);
  const [search, setSearch] = useState('');
  const wanted = search.trim().toLowerCase();
  const shown =
    wanted === ''
      ? COMMON_SYMBOLS
      : ALL_SYMBOLS.filter(
          ({ name, table, code }) => name.includes(wanted) || table + code === search.trim(),
        );
  const overlay = symbolOverlay(symbol) ?? '';
  return (
    <div className="flex flex-col gap-1.5">
      <span className="text-[13.5px] font-[620]">Symbol</span>
      <div className="flex flex-wrap items-center gap-2">
        <Button
          aria-expanded={isOpen}
          aria-label={`Symbol: ${symbolName(symbol)}. Choose another`}
          onClick={() => setOpen(!isOpen)}
        >
          <SymbolMark symbol={symbol} /> {symbolName(symbol)}{' '}
          <span className="font-mono text-ink3">{symbol.table + symbol.code}</span>
        </Button>
        {symbol.table !== '/' && (
          <label className="flex items-center gap-1.5 text-[13.5px]">
            Overlay
            <input
              value={overlay}
              maxLength={1}
              aria-label="Overlay, a digit or a letter"
              className="w-10 rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 text-center font-mono max-md:min-h-11"
              onChange={({ target }) => {
                const next = target.value.toUpperCase();
                if (next === '' || /^[0-9A-Z]$/.test(next)) take({ table: next || '\\', code: symbol.code });
              }}
            />
          </label>
        )}
      </div>
      {isOpen && (
        <div className="rounded-lg border border-line bg-raise p-2">
          <SearchField label="Find" value={search} set={setSearch} placeholder="boat, tent, digipeater …" />
          <ul className="mt-2 grid max-h-56 grid-cols-[repeat(auto-fill,minmax(2.6rem,1fr))] gap-1 overflow-y-auto">
            {shown.map(({ table, code, name }) => (
              <li key={table + code}>
                <button
                  type="button"
                  title={`${name} ${table}${code}`}
                  aria-pressed={table + code === symbol.table + symbol.code}
                  className="grid size-10 place-items-center rounded hover:bg-sheet aria-pressed:bg-sheet aria-pressed:outline aria-pressed:outline-ink max-md:size-11"
                  onClick={() => {
                    take({ table, code });
                    setOpen(false);
                  }}
                >
                  <SymbolMark symbol={{ table, code }} />
                </button>
              </li>
            ))}
          </ul>
          {shown.length === 0 && <p className="text-[13.5px] text-ink2">No symbol has that in its name.</p>}
          {wanted === '' && (
            <p className="pt-1.5 text-[13px] text-ink3">
              The commonest; find any of {ALL_SYMBOLS.length} by its name.
            </p>
          )}
        </div>
      )}
    </div>
  );
}
