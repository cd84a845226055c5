/** The fields of an item (docs/kit.md) as an operator calls them. */
const WORDS: Readonly<Record<string, string>> = {
  item: 'the item',
  id: 'the mark',
  kind: 'the kind',
  name: 'the name',
  about: 'the line about it',
  version: 'the version',
  isHere: '“at hand now”',
  drawMilliamps: 'the draw in mA',
  isUnproven: '“unproven”',
  ports: 'the ports',
  ways: 'the ways through it',
  switches: 'the switches',
  radio: 'what the radio can do',
  host: 'what the computer or phone is',
  app: 'what the app can do',
  antenna: 'what the antenna does',
  gainDbi: 'the gain over isotropic',
  heightM: 'the height in m',
  feedLossDb: 'the feed loss',
  connector: 'the connector',
  end: 'the end, plug or socket',
  usb: 'the role at USB',
  profiles: 'the Bluetooth profiles',
  from: 'where it begins',
  to: 'where it ends',
  turns: 'what it turns into what',
  keys: 'what keys it',
  bands: 'the bands',
  transmits: '“transmits”',
  watts: 'the power in watts',
  hasTracker: '“sends its own position”',
  hasMessagePage: '“has messages on its own screen”',
  sources: 'what it gives at its ports',
  port: 'the port',
  gives: 'what it gives',
  keying: 'how it is keyed',
  since: 'the version since when',
  hostClass: 'the sort of computer or phone',
  hasScreen: '“has a screen”',
  runsOn: 'where it runs',
  opens: 'what it opens',
  signal: 'the signal',
  over: 'by which way it opens it',
  keysBy: 'how it keys',
  does: 'what it does',
  offers: 'what it offers to other programs',
  isMistpeak: '“is Mistpeak”',
};

/** A refusal of a kit’s reader for somebody who sees a form and no field names: `item.ports[1].usb must be …`. */
export function inFormWords(refusal: string): string {
  const match = /^item((?:\.\w+|\[\d+\])*) /.exec(refusal);
  if (!match) return refusal;
  const steps = (match[1] ?? '').match(/\w+/g) ?? [];
  const words = steps.map((step) =>
    /^\d+$/.test(step) ? `number ${Number(step) + 1}` : (WORDS[step] ?? `“${step}”`),
  );
  const place = words.length === 0 ? 'the item' : words.join(', ');
  return `${place} ${refusal.slice(match[0].length)}`;
}
