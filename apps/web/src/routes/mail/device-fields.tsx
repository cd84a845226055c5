import { NEUTRAL_WORDS, type ModemWords } from '@mistpeak/core/command-words/modem-program';
import { NEUTRAL_RADIO_WORDS, type RadioWords } from '@mistpeak/core/command-words/radio-control';
import type { MailSettings } from '@mistpeak/contract/mail-settings';
import { Button } from '../../pieces/button';
import { NumberField, SelectField, TextField } from '../../pieces/field';

const MODEM_WORDS: readonly (readonly [keyof ModemWords, string])[] = [
  ['setOwn', 'Set the own call: {call}'],
  ['askOwn', 'Ask for it'],
  ['ownIs', 'Its answer: {call}'],
  ['connect', 'Connect: {from} {to} {tries}'],
  ['connected', 'It is connected: {to}'],
  ['busy', 'Channel busy'],
  ['clear', 'Channel free'],
  ['buffer', 'What waits in it: {octets}'],
  ['disconnect', 'Disconnect'],
  ['disconnected', 'It is disconnected'],
  ['abort', 'Cut off at once'],
  ['refused', 'It refuses: {words}'],
];

/** Other programs’ sound modems, by their words. */
export function Modems({
  settings,
  change,
}: {
  settings: MailSettings;
  change: (more: Partial<MailSettings>) => void;
}) {
  const { modems } = settings;
  const put = (at: number, more: Partial<(typeof modems)[number]>): void =>
    change({ modems: modems.map((one, i) => (i === at ? { ...one, ...more } : one)) });
  return (
    <section aria-label="Modem programs" className="flex flex-col gap-3 border-t-[1.5px] border-ink pt-2">
      <h2>Modem programs</h2>
      <p className="text-[14px] text-ink2">
        A sound modem of another program, with its own command and data ports. Fill in its words from its
        documentation; it stands behind the lock of the link.
      </p>
      {modems.map((modem, i) => (
        <details key={i} className="border-t border-line pt-2">
          <summary className="cursor-pointer text-[15px] font-[600]">
            {modem.name || 'A modem program'}
          </summary>
          <div className="grid gap-3 py-2 sm:grid-cols-3">
            <TextField
              label="Name"
              value={modem.name}
              onChange={({ target }) => put(i, { name: target.value })}
            />
            <TextField
              label="Host"
              mono
              value={modem.host}
              onChange={({ target }) => put(i, { host: target.value })}
            />
            <TextField
              label="Sound card"
              hint="as this machine names it; a link with the same card must be closed"
              value={modem.card}
              onChange={({ target }) => put(i, { card: target.value })}
            />
            <NumberField
              label="Command port"
              value={modem.commandPort}
              set={(commandPort) => put(i, { commandPort: commandPort ?? 0 })}
            />
            <NumberField
              label="Data port"
              value={modem.dataPort}
              set={(dataPort) => put(i, { dataPort: dataPort ?? 0 })}
            />
          </div>
          <div className="grid gap-x-3 gap-y-1 sm:grid-cols-2 lg:grid-cols-3">
            {MODEM_WORDS.map(([word, label]) => (
              <TextField
                key={word}
                label={label}
                mono
                value={modem.words[word]}
                onChange={({ target }) => put(i, { words: { ...modem.words, [word]: target.value } })}
              />
            ))}
          </div>
          <Button kind="stop" onClick={() => change({ modems: modems.filter((_, at) => at !== i) })}>
            Take {modem.name || 'it'} out
          </Button>
        </details>
      ))}
      <div>
        <Button
          onClick={() =>
            change({
              modems: [
                ...modems,
                {
                  name: 'Modem program',
                  host: '127.0.0.1',
                  commandPort: 8300,
                  dataPort: 8301,
                  card: '',
                  words: { ...NEUTRAL_WORDS },
                },
              ],
            })
          }
        >
          Add a modem program
        </Button>
      </div>
    </section>
  );
}

const RADIO_WORDS: readonly (readonly [keyof RadioWords, string])[] = [
  ['set', 'Set the frequency: {hz}, {khz} or {mhz}'],
  ['ask', 'Ask for it'],
  ['frequencyIs', 'Its answer: {hz}, and {band}'],
];

/** Radios whose frequency is set by words. */
export function Radios({
  settings,
  change,
}: {
  settings: MailSettings;
  change: (more: Partial<MailSettings>) => void;
}) {
  const { radios } = settings;
  const put = (at: number, more: Partial<(typeof radios)[number]>): void =>
    change({ radios: radios.map((one, i) => (i === at ? { ...one, ...more } : one)) });
  return (
    <section aria-label="Radio control" className="flex flex-col gap-3 border-t-[1.5px] border-ink pt-2">
      <h2>Radio control</h2>
      <p className="text-[14px] text-ink2">
        A radio whose frequency can be set by words: it is set, read back, and put back afterwards. No word of
        it keys the transmitter.
      </p>
      {radios.map((radio, i) => (
        <details key={i} className="border-t border-line pt-2">
          <summary className="cursor-pointer text-[15px] font-[600]">{radio.name || 'A radio'}</summary>
          <div className="grid gap-3 py-2 sm:grid-cols-2 lg:grid-cols-4">
            <TextField
              label="Name"
              value={radio.name}
              onChange={({ target }) => put(i, { name: target.value })}
            />
            <TextField
              label="Where"
              mono
              hint="/dev/ttyUSB1, or host:port"
              value={radio.at}
              onChange={({ target }) => put(i, { at: target.value })}
            />
            <NumberField
              label="Speed"
              value={radio.speed}
              set={(speed) => put(i, { speed: speed ?? 9600 })}
            />
            <SelectField
              label="A command ends with"
              value={radio.ending}
              onChange={({ target }) => put(i, { ending: target.value as typeof radio.ending })}
            >
              {['CR', 'LF', 'CR LF', ';'].map((one) => (
                <option key={one}>{one}</option>
              ))}
            </SelectField>
            {RADIO_WORDS.map(([word, label]) => (
              <TextField
                key={word}
                label={label}
                mono
                value={radio.words[word]}
                onChange={({ target }) => put(i, { words: { ...radio.words, [word]: target.value } })}
              />
            ))}
          </div>
          <Button kind="stop" onClick={() => change({ radios: radios.filter((_, at) => at !== i) })}>
            Take {radio.name || 'it'} out
          </Button>
        </details>
      ))}
      <div>
        <Button
          onClick={() =>
            change({
              radios: [
                ...radios,
                { name: 'Radio', at: '', speed: 9600, ending: 'CR', words: { ...NEUTRAL_RADIO_WORDS } },
              ],
            })
          }
        >
          Add a radio
        </Button>
      </div>
    </section>
  );
}
