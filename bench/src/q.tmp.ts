import { readCoordinates } from '../../core/src/formats/reading/read';
import { hostileText, seeded } from '../../core/src/formats/reading/fuzz';
const random = seeded(20261126);
const t0=performance.now();
const slow: [number,string,string][]=[];
for (let k=0;k<1500;k++){const text=hostileText(random);const t=performance.now();let c='';try{readCoordinates(text);}catch(e){c=(e as any).code}
 slow.push([performance.now()-t,c,text.slice(0,60)+' len '+text.length]);}
console.log(performance.now()-t0);
slow.sort((a,b)=>b[0]-a[0]); for(const s of slow.slice(0,12))console.log(s[0].toFixed(1),s[1],JSON.stringify(s[2]));
