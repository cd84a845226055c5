/**
 * Words with fields: `LINK {from} {to}`, `FREQ {hz:11}` (so many digits, with leading zeros), `FREQ {mhz:3.6}` (digits before and after the
 * point). Read by the same words: a field takes what stands there, up to the next fixed sign.
 */
const FIELD = /\{(\w+)(?::(\d+)(?:\.(\d+))?)?\}/g;

export type Values = Readonly<Record<string, string | number>>;

/** Fields that a template has. */
export const fieldsOf = (template: string): string[] =>
  [...template.matchAll(FIELD)].map(([, name]) => name as string);

export const fill = (template: string, values: Values): string =>
  template.replace(FIELD, (_, name: string, whole: string | undefined, parts: string | undefined) => {
    const value = values[name] ?? '';
    if (typeof value === 'string') return value;
    if (parts === undefined) return String(Math.round(value)).padStart(Number(whole ?? 0), '0');
    return value.toFixed(Number(parts)).padStart(Number(whole) + 1 + Number(parts), '0');
  });

/** What stands in the fields; undefined where the line is not of this form. Letters of either case are one. */
export function read(template: string, line: string): Record<string, string> | undefined {
  if (template === '') return undefined;
  let pattern = '';
  let from = 0;
  const names: string[] = [];
  for (const match of template.matchAll(FIELD)) {
    pattern += `${literal(template.slice(from, match.index))}([^\\r\\n]*?)`;
    names.push(match[1] as string);
    from = match.index + match[0].length;
  }
  const found = new RegExp(`^\\s*${pattern}${literal(template.slice(from))}\\s*$`, 'i').exec(line);
  return found
    ? Object.fromEntries(names.map((name, i) => [name, (found[i + 1] as string).trim()]))
    : undefined;
}

const literal = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&').replace(/\s+/g, '\\s+');

/** Lines of what comes, by CR, LF or another sign that ends them; what has no end yet stays. */
export function cutLines(
  text: string,
  end = '\r\n',
): { readonly lines: readonly string[]; readonly rest: string } {
  const parts = text.split(new RegExp(`[${end.replace(/[\]\\^-]/g, '\\$&')}]+`));
  return {
    lines: parts.slice(0, -1).filter((line) => line.trim() !== ''),
    rest: (parts.at(-1) ?? '').slice(-1000),
  };
}
