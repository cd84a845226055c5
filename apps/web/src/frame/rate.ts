/** What is called so comes before what is about it; every word that was typed must stand somewhere. */
export function rate(name: string, typed: string, about: readonly string[] = []): number {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const isIn = (text: string): boolean => words.every((word) => text.toLowerCase().includes(word));
  if (isIn(name)) return 1;
  return isIn([name, ...about].join(' ')) ? 0.5 : 0;
}
