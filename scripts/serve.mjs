// The server and its threads, each made into one file.
import { pathToFileURL } from 'node:url';
import { serverMade } from './parts.mjs';

await import(pathToFileURL(await serverMade()).href);
