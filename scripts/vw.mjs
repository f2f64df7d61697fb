// The command line, made into one file.
import { pathToFileURL } from 'node:url';
import { commandsMade } from './parts.mjs';

await import(pathToFileURL(await commandsMade()).href);
