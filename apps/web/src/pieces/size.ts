/** `512 kB`, `1.4 GB`. */
export function formatSize(octets: number): string {
  const [value, unit] =
    octets < 1e6 ? [octets / 1e3, 'kB'] : octets < 1e9 ? [octets / 1e6, 'MB'] : [octets / 1e9, 'GB'];
  return `${value < 10 ? value.toFixed(1) : Math.round(value)} ${unit}`;
}
