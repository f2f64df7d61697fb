import { createWriteStream, existsSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { resolve } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Command } from 'commander';
import { InvalidInput } from '@veldtwind/core/numerics';
import { backupFile, restoreFile } from '@veldtwind/store/backup';
import { openDatabase, type Db } from '@veldtwind/store/open';
import { ProjectStore } from '@veldtwind/store/projects';
import { readProjectFile } from '@veldtwind/store/project-file/read';
import { projectFileName, writeProjectFile } from '@veldtwind/store/project-file/write';
import { checkFile } from '../arguments';
import { printJson, table } from '../output';

/** Where the server keeps its database unless it is told otherwise. */
const databaseOf = (given?: string) => resolve(given ?? process.env.VELDTWIND_DATABASE ?? 'data/veldtwind.sqlite');
const DATABASE = ['--database <file>', 'the database; VELDTWIND_DATABASE, or data/veldtwind.sqlite'] as const;

interface Options {
  database?: string;
  out?: string;
  force?: boolean;
  json?: boolean;
}
const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`;
const projects = (count: number) => `${count} project${count === 1 ? '' : 's'}`;

/** Opens the database for work on its projects. @throws InvalidInput `file` where there is none. */
export function openStore(options: { database?: string }): Db {
  const file = databaseOf(options.database);
  if (!existsSync(file))
    throw new InvalidInput('file', `There is no database ${file}.`, 'Give its path with --database.');
  return openDatabase(file);
}

export function backupCommand(): Command {
  return new Command('backup')
    .description('A copy of the whole database in one file, also while a server runs on it')
    .requiredOption('--out <file>', 'where to write it')
    .option(...DATABASE)
    .option('--force', 'replace the file when it is there')
    .option('--json', 'print JSON')
    .action(async (o: Options) => {
      const made = await backupFile(databaseOf(o.database), o.out!, o.force);
      if (o.json) return printJson(made);
      process.stdout.write(`${made.path}: ${projects(made.projects)}, ${megabytes(made.bytes)}, read back and whole\n`);
    });
}

export function restoreCommand(): Command {
  return new Command('restore')
    .description('Puts a backup in the place of the database; what was there is kept')
    .argument('<file>', 'the backup')
    .option(...DATABASE)
    .option('--force', 'also when the database was changed after the backup')
    .option('--json', 'print JSON')
    .action((file: string, o: Options) => {
      const done = restoreFile(file, databaseOf(o.database), o.force);
      if (o.json) return printJson(done);
      process.stdout.write(
        `${done.path}: ${projects(done.projects)}, last changed ${done.newest || 'never'}\n${done.former ? `what was there is kept as ${done.former}\n` : ''}`,
      );
    });
}

/** The project that is meant: by its id, or by a name that only one has. @throws InvalidInput. */
export function findProject(db: Db, given: string): { id: string; name: string } {
  const all = new ProjectStore(db).list();
  const found = all.filter((p) => p.id === given || p.name === given);
  if (found.length === 1) return found[0];
  throw new InvalidInput(
    'project',
    found.length === 0 ? `There is no project "${given}".` : `${found.length} projects are called "${given}".`,
    'Give the id; “vw project list” shows them.',
  );
}

export function projectCommand(): Command {
  const command = new Command('project').description('Projects of the database, and whole projects as files');
  command
    .command('list')
    .description('All projects')
    .option(...DATABASE)
    .option('--json', 'print JSON')
    .action((o: Options) => {
      const db = openStore(o);
      const rows = new ProjectStore(db).list();
      db.close();
      if (o.json) return printJson({ projects: rows });
      process.stdout.write(
        table(rows, [
          { title: 'id', text: (r) => r.id },
          { title: 'name', text: (r) => r.name },
          { title: 'edits', text: (r) => String(r.version) },
          { title: 'changed', text: (r) => r.updatedAt },
        ]),
      );
    });
  command
    .command('export')
    .description('A project with its originals, history and kept results as one file')
    .argument('<project>', 'its id or name')
    .option('--out <file>', 'where to write it; its name without')
    .option(...DATABASE)
    .option('--json', 'print JSON')
    .action(async (given: string, o: Options) => {
      const db = openStore(o);
      try {
        const { id, name } = findProject(db, given);
        const path = resolve(o.out ?? projectFileName(name));
        const part = `${path}.part`;
        try {
          await pipeline(Readable.from(writeProjectFile(db, id)), createWriteStream(part));
          await rename(part, path);
        } catch (error) {
          await rm(part, { force: true });
          const { code } = error as NodeJS.ErrnoException;
          throw code ? new InvalidInput('file', `${path} cannot be written (${code}).`) : error;
        }
        if (o.json) return printJson({ id, name, path });
        process.stdout.write(`${name}: written to ${path}\n`);
      } finally {
        db.close();
      }
    });
  command
    .command('import')
    .description('A new project from such a file')
    .argument('<file>', 'the file')
    .option(...DATABASE)
    .option('--json', 'print JSON')
    .action(async (file: string, o: Options) => {
      checkFile(file, Infinity);
      const db = openDatabase(databaseOf(o.database));
      try {
        const made = await readProjectFile(db, file);
        if (o.json) return printJson(made);
        process.stdout.write(
          `${made.name}: ${made.parts} parts, ${made.edits} edits, ${made.results} results; its id is ${made.id}\n${made.left.map((l) => `  ${l}\n`).join('')}`,
        );
      } finally {
        db.close();
      }
    });
  return command;
}
