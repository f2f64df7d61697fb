import { evaluateCandidate, sectionLookup, angleForLift } from '@veldtwind/core/candidate';
import { findingsOf, findingWords } from '@veldtwind/core/findings';
import { seedsnipe } from './seedsnipe';

// Prints what the demo's candidates come to: npm run figures -w demo
const { document } = seedsnipe();
for (const c of Object.values(document.candidates)) {
  const e = evaluateCandidate(document.brief, c, sectionLookup(document.sections));
  console.log(
    `\n${c.letter} ${c.name}: CG ${e.mass?.centre.x.toFixed(3)} m, NP ${e.balance?.neutralPoint.toFixed(3)} m, needs ${((angleForLift(e.lift!, e.design!.CL!) ?? NaN) * 57.2958).toFixed(2)}°`,
  );
  for (const f of findingsOf(document.brief, c, e)) {
    const { headline, detail } = findingWords(f);
    console.log(`  ${f.state.padEnd(8)}${headline}${detail}`);
  }
}
