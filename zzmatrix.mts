import sharp from 'sharp'; import {readFileSync,readdirSync} from 'node:fs';
import { SIDE } from './core/sighting/fitted.ts'; import { sighted } from './core/sighting/sighting.ts';
const R='/work/main/../shared/reference/photographs/';
const preds:Record<string,any>={}; const scenes=readdirSync(R+'predicted').filter(f=>f.endsWith('.png')).map(f=>f.replace('.png',''));
for(const s of scenes){const g=await sharp(R+'predicted/'+s+'.png').greyscale().resize(SIDE,SIDE,{fit:'fill'}).raw().toBuffer();preds[s]={n:SIDE,data:Float32Array.from(g,v=>v/255)};}
let wrong=0,least=9,most=-9;
for(let i=1;i<=20;i++){const n='p10'+String(i).padStart(2,'0');const j=JSON.parse(readFileSync(R+'given/'+n+'.json','utf8'));const {data,info}=await sharp(R+'given/'+n+'.jpg').ensureAlpha().raw().toBuffer({resolveWithObject:true});
 const photo={width:info.width,height:info.height,rgba:data}; const sizes={acrossMm:j.given.measuredMm.acrossFlats,heightMm:j.given.measuredMm.height};
 for(const s of scenes){const r=sighted({photo,taps:j.given.taps,sizes},{tones:preds[s],widthMm:sizes.acrossMm,heightMm:sizes.heightMm});
  if(s===j.scene){ if(!r.ok) console.log('REFUSED OWN',n,r.why); else {least=Math.min(least,r.sighting.correlation); if(r.sighting.lead<0.08||r.sighting.correlation<0.6) console.log('not sure own',n,r.sighting.correlation,r.sighting.lead);} }
  else if(r.ok){console.log('ACCEPTED',n,j.scene,'as',s,r.sighting.correlation,'lead',r.sighting.lead);wrong++;} else most=most;}}
console.log('accepted wrong',wrong,'least own',least);
