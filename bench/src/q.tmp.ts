import { airframeMotion, sectionLookup } from '@veldtwind/core/candidate';
import { keptMeanLine, polarNeeds } from '@veldtwind/core/lift';
import { gathered, sweepFor } from '@veldtwind/core/flight';
import { solveCurve } from '@veldtwind/core/polar';
import { standing } from '@veldtwind/core/airframe';
import { flowState } from '@veldtwind/core/atmosphere';
import { seedsnipe } from '@veldtwind/demo/seedsnipe';
const { document } = seedsnipe() as any;
const lookup = sectionLookup(document.sections);
const flown = document.candidates.a;
const stands = standing(flown.surfaces, flown.bodies);
const air = flowState(26, 600);
const polarsOf = polarNeeds(stands, [air.reynoldsPerMetre]).map((need) => {
  const { input, values } = sweepFor(need, lookup, { ncrit: 9, mach: air.mach });
  return { need, points: solveCurve(input, values) };
});
const polars = gathered(polarsOf);
const meanLine = (key: string) => keptMeanLine(lookup(key));
const go=()=>airframeMotion(flown, lookup, meanLine, { speed: 26, altitude: 600, polars });
for(let i=0;i<3;i++)go();
import { Session } from 'node:inspector';
import { writeFileSync, mkdirSync } from 'node:fs';
const session=new Session(); session.connect();
session.post('Profiler.enable',()=>session.post('Profiler.start',()=>{
const t=performance.now(); for(let i=0;i<30;i++)go(); console.log((performance.now()-t)/30);
session.post('Profiler.stop',(e,{profile}:any)=>{mkdirSync('/tmp/prof',{recursive:true});writeFileSync('/tmp/prof/a.cpuprofile',JSON.stringify(profile));});
}));
