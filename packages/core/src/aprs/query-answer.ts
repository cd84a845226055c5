import type { QueryAnswer } from './report.js';

/**
 * Answers to queries that are messages (1.0.1, "Station capabilities, queries and responses"; from memory): `Directs=`
 * lists who is heard direct, `PATH=` the way by which the query came, `CALL HEARD:` how often in each of the last eight
 * hours, the present one first, a dot for never. The other answers are a position, a status or objects.
 */
const HEARD = /^([A-Z0-9-]{3,9}) HEARD:((?: +(?:\d{1,4}|\.)){1,8})\s*$/;

export function readQueryAnswer(text: string): QueryAnswer | undefined {
  const list = /^(Directs|PATH)= ?(.*)$/s.exec(text);
  if (list?.[1] === 'Directs') return { to: 'APRSD', stations: words(list[2] as string) };
  if (list) return { to: 'APRST', path: (list[2] as string).trim() };
  const heard = HEARD.exec(text);
  if (!heard) return undefined;
  const counts = words(heard[2] as string).map((figure) => (figure === '.' ? 0 : Number(figure)));
  return { to: 'APRSH', station: heard[1] as string, counts };
}

/** The text of the message; what does not fit into it is cut at a word. longest: characters. */
export function encodeQueryAnswer(answer: QueryAnswer, longest: number): string {
  switch (answer.to) {
    case 'APRSD':
      return fitting(`Directs= ${answer.stations.join(' ')}`, longest);
    case 'APRST':
      return `PATH= ${answer.path}`.slice(0, longest);
    case 'APRSH':
      return `${answer.station} HEARD: ${answer.counts.map((count) => count || '.').join(' ')}`.slice(
        0,
        longest,
      );
  }
}

function words(text: string): string[] {
  return text.split(/\s+/).filter((word) => word !== '');
}

function fitting(text: string, longest: number): string {
  return text.length <= longest ? text : text.slice(0, longest + 1).replace(/\s+\S*$/, '');
}
