import { writeFileSync } from 'node:fs';
import { wordsPage } from '@veldtwind/core/quantities';

// The page of words, from the lists that the program reads: npm run words
writeFileSync('docs/words.md', wordsPage());
