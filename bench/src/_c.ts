import { readFileSync, writeFileSync } from 'node:fs';
import { writeCandidateFile } from '@veldtwind/core/candidate';
const d = JSON.parse(readFileSync('demo/seedsnipe.json','utf8'));
console.log(Object.keys(d), Object.keys(d.document??{}));
const doc=d.document??d;
const c:any=Object.values(doc.candidates).find((x:any)=>x.letter==='A');
const sec=(k:string)=>{const s=doc.sections[k]; return s.steps?.length?{kind:'recipe',source:s.source,steps:s.steps}:s.source;};
c.actuation={};
for(const s of c.surfaces) for(const k of s.controls??[]) {console.log(s.id,k.id,k.name,k.limitsDeg,k.hinge); c.actuation[k.id]={servo:{name:'Kestrel 26',torque:0.8,travelDeg:50,arm:0.02,horn:0.025}};}
writeFileSync('/tmp/a.json', writeCandidateFile(c, sec as any));
