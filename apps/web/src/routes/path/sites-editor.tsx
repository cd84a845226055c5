import Papa from 'papaparse';
import { useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatKml } from '@mistpeak/core/tracks/kml';
import { readSiteRow, SITE_COLUMNS, writeSiteRow, type SiteRow } from '@mistpeak/core/path-lab/site-rows';
import { USUAL_SETS } from '@mistpeak/core/path-lab/compose';
import { SITE_ROLES, type SiteRole, type SiteView } from '@mistpeak/contract/path-lab';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { saveFile } from '../../pieces/save-file';
import { Table } from '../../pieces/table';
import { knownSite } from './lab-now';
import { FileButton } from '../../pieces/file-button';

/** Digipeaters and gateways as the operator knows them: what was heard says less of antenna and power. */
export function SitesEditor() {
  const sites = useLive((state) => state.sites);
  const [open, setOpen] = useState<SiteView | 'new'>();
  const { problem, attempt } = useAttempt();
  return (
    <section
      aria-label="Stations known by hand"
      className="flex flex-col items-start gap-2 border-t-[1.5px] border-ink pt-2.5"
    >
      <h2>Stations that I know</h2>
      {sites.length === 0 ? (
        <p className="text-[14px] text-ink2">
          None yet. What is entered here goes before what is guessed from beacons.
        </p>
      ) : (
        <Table
          stacks
          columns={['Call', 'Does', 'Place', 'Antenna', 'Power', 'Note', { head: 'Change', isHidden: true }]}
          className="w-full text-[14px]"
        >
          {sites.map((site) => (
            <tr key={site.call} className="border-t border-line align-baseline">
              <th scope="row" className="py-1 pr-3 font-mono font-[620]">
                {site.call}
              </th>
              <td className="pr-3">{site.role}</td>
              <td className="pr-3 font-mono text-[13px]">{site.place}</td>
              <td className="pr-3 font-mono text-[13px]">
                {site.heightM} m, {site.gainDbi} dBi
              </td>
              <td className="pr-3 font-mono text-[13px]">{site.powerW} W</td>
              <td className="pr-3 text-ink2">{site.note}</td>
              <td className="text-right whitespace-nowrap">
                <OperatorOnly>
                  <Button className="mr-2" aria-label={`Change ${site.call}`} onClick={() => setOpen(site)}>
                    Change
                  </Button>
                  <Button
                    kind="stop"
                    aria-label={`Remove ${site.call}`}
                    onClick={() => void attempt(() => command('DELETE', `/path-lab/sites/${site.call}`))}
                  >
                    Remove
                  </Button>
                </OperatorOnly>
              </td>
            </tr>
          ))}
        </Table>
      )}
      {problem && <ProblemNote problem={problem} />}
      <OperatorOnly>
        {open ? (
          <SiteForm
            key={open === 'new' ? 'new' : open.call}
            site={open === 'new' ? undefined : open}
            close={() => setOpen(undefined)}
          />
        ) : (
          <div className="flex flex-wrap gap-2">
            <Button onClick={() => setOpen('new')}>Add a station …</Button>
            <SiteFile />
            <Button
              disabled={sites.length === 0}
              onClick={() =>
                saveFile(
                  'stations.csv',
                  'text/csv',
                  Papa.unparse({
                    fields: [...SITE_COLUMNS],
                    data: sites.map((site) => Object.values(writeSiteRow(site))),
                  }),
                )
              }
            >
              Save as CSV
            </Button>
            <Button
              disabled={sites.length === 0}
              onClick={() =>
                saveFile(
                  'stations.kml',
                  'application/vnd.google-earth.kml+xml',
                  formatKml('Stations', [], sites.flatMap(placeOf)),
                )
              }
            >
              Save as KML
            </Button>
          </div>
        )}
      </OperatorOnly>
    </section>
  );
}

const placeOf = (site: SiteView) =>
  knownSite(site).map(({ position, call, role }) => ({
    ...position,
    name: call,
    about: [role, site.note].filter(Boolean).join(', '),
  }));

type Values = Omit<SiteRow, 'heightM' | 'powerW' | 'gainDbi'> & {
  heightM: number | undefined;
  powerW: number | undefined;
  gainDbi: number | undefined;
};

function SiteForm({ site, close }: { site: SiteView | undefined; close: () => void }) {
  const { version, ...saved } = site ?? {
    version: undefined,
    call: '',
    role: 'digipeater' as SiteRole,
    place: '',
    note: '',
    ...USUAL_SETS.digipeater,
  };
  const draft = useDraft<Values>(`site ${site?.call ?? 'new'}`, saved);
  const { values, set } = draft;
  const { problem, isBusy, attempt } = useAttempt();
  const giveUp = (): void => {
    draft.drop();
    close();
  };
  return (
    <form
      noValidate
      className="flex w-full max-w-[46rem] flex-col gap-3 border-l-[3px] border-edge bg-raise px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(async () => {
          await command('PUT', '/path-lab/sites', {
            ...values,
            ...(version === undefined ? {} : { version }),
          });
          giveUp();
        });
      }}
    >
      <div className="grid gap-3 md:grid-cols-3">
        <TextField
          label="Call"
          mono
          readOnly={site !== undefined}
          value={values.call}
          error={problem?.fields?.call}
          onChange={({ target }) => set({ ...values, call: target.value })}
        />
        <SelectField
          label="What it does"
          value={values.role}
          onChange={({ target }) => {
            const role = target.value as SiteRole;
            set({ ...values, role, ...(site ? {} : USUAL_SETS[role]) });
          }}
        >
          {SITE_ROLES.map((role) => (
            <option key={role}>{role}</option>
          ))}
        </SelectField>
        <TextField
          label="Place"
          mono
          value={values.place}
          error={problem?.fields?.place}
          onChange={({ target }) => set({ ...values, place: target.value })}
        />
        <NumberField
          label="Antenna height, m"
          hint="over the ground"
          value={values.heightM}
          error={problem?.fields?.heightM}
          set={(heightM) => set({ ...values, heightM })}
        />
        <NumberField
          label="Power, W"
          value={values.powerW}
          error={problem?.fields?.powerW}
          set={(powerW) => set({ ...values, powerW })}
        />
        <NumberField
          label="Gain, dBi"
          hint="feed line and houses round it taken off"
          value={values.gainDbi}
          error={problem?.fields?.gainDbi}
          set={(gainDbi) => set({ ...values, gainDbi })}
        />
      </div>
      <TextField
        label="Note"
        value={values.note}
        error={problem?.fields?.note}
        onChange={({ target }) => set({ ...values, note: target.value })}
      />
      {problem && !problem.fields && <ProblemNote problem={problem} />}
      <div className="flex gap-2">
        <Button type="submit" kind="main" disabled={isBusy}>
          Save the station
        </Button>
        <Button onClick={giveUp}>Cancel</Button>
      </div>
    </form>
  );
}

/** A thousand stations with long notes have less. */
const MOST_OCTETS = 2 * 1024 * 1024;

/** All rows of a CSV file, or none: what is wrong in it is named by its line. */
function SiteFile() {
  const { problem, attempt } = useAttempt();
  const [words, setWords] = useState<string>();
  const take = async (file: File): Promise<void> => {
    if (file.size > MOST_OCTETS)
      return setWords(`${file.name} is larger than any list of stations: nothing of it was read.`);
    const { data } = Papa.parse<Record<string, string>>(await file.text(), {
      header: true,
      skipEmptyLines: 'greedy',
    });
    const sites: SiteRow[] = [];
    for (const [i, row] of data.entries()) {
      const site = readSiteRow(row);
      if (isMalformed(site))
        return setWords(`Nothing of ${file.name} was taken. Row ${i + 1}: ${site.malformed}.`);
      sites.push(site);
    }
    if (sites.length === 0)
      return setWords(`${file.name} has no rows with the columns ${SITE_COLUMNS.join(', ')}.`);
    const isTaken = await attempt(() => command('POST', '/path-lab/sites/import', { sites }));
    setWords(isTaken ? `${sites.length} stations taken from ${file.name}.` : undefined);
  };
  return (
    <>
      <FileButton label="CSV file of stations" accept=".csv,text/csv" take={(file) => void take(file)}>
        Take from a CSV file …
      </FileButton>
      {words !== undefined && (
        <p role="status" className="w-full text-[13.5px] text-ink2">
          {words}
        </p>
      )}
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}
