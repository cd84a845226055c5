import { DataSource, type MixedList } from 'typeorm';
import { PlainWords } from '../plain-words.js';
import { LOCK_SPACE } from './session.js';
import { troubleOf } from './trouble.js';

/** No link has this key. */
const MIGRATION_KEY = -1;
const TRIES = 10;
const BETWEEN_MS = 1000;

type Migration = new (...given: never[]) => object;

/**
 * Brings the tables to the form that this program knows, before anything else reads them, and without a limit of time: an
 * index over years of frames takes its while. One process at a time. Rejects with PlainWords where the tables are of a newer
 * program, or the database cannot be reached.
 */
export async function migrate(url: string, migrations: readonly Migration[]): Promise<void> {
  const dataSource = new DataSource({
    type: 'postgres',
    url,
    migrations: migrations as unknown as MixedList<never>,
    migrationsTransactionMode: 'each',
    // A machine that stands still for seconds is no database that is away.
    connectTimeoutMS: 20_000,
    extra: { max: 2 },
  });
  await reach(dataSource);
  try {
    const runner = dataSource.createQueryRunner();
    await runner.query('SELECT pg_advisory_lock($1, $2)', [LOCK_SPACE, MIGRATION_KEY]);
    try {
      await refuseNewer(dataSource, migrations);
      await dataSource.runMigrations();
    } finally {
      await runner.query('SELECT pg_advisory_unlock($1, $2)', [LOCK_SPACE, MIGRATION_KEY]);
      await runner.release();
    }
  } catch (error) {
    if (troubleOf(error) === 'full')
      throw new PlainWords(
        'There is no space left where the data lies. Make room on that disk, then start again.',
      );
    throw error;
  } finally {
    await dataSource.destroy();
  }
}

/** A machine that has just started many programs may let the first connection wait. */
async function reach(dataSource: DataSource): Promise<void> {
  for (let tries = 1; ; tries++) {
    try {
      await dataSource.initialize();
      return;
    } catch (error) {
      if ((error as { code?: string }).code === '28P01')
        throw new PlainWords(
          'The database refuses the key that it was given: the key is lost or damaged. Put it back from a copy.',
        );
      if (tries === TRIES) throw new PlainWords(`The database does not answer: ${(error as Error).message}`);
      await new Promise((resolve) => setTimeout(resolve, BETWEEN_MS));
    }
  }
}

/** What a newer program has made of the tables this one must not touch. */
async function refuseNewer(dataSource: DataSource, migrations: readonly Migration[]): Promise<void> {
  const [{ there } = { there: null }]: { there: string | null }[] = await dataSource.query(
    "SELECT to_regclass('migrations')::text AS there",
  );
  if (there === null) return;
  const known = new Set(migrations.map(({ name }) => name));
  const done: { name: string }[] = await dataSource.query('SELECT name FROM migrations');
  const unknown = done.filter(({ name }) => !known.has(name)).map(({ name }) => name);
  if (unknown.length > 0)
    throw new PlainWords(
      `This data was written by a newer Mistpeak (${unknown.join(', ')}). Start that one, or give another folder with --data. Nothing was changed.`,
    );
}
