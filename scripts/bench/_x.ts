import { readStock, wavBytes, type Sound } from '@vast-swarm/core';
for (const stereo of [false, true]) {
const ch = Int16Array.from({length: 30870}, (_, i) => Math.round(30000*Math.sin(i/20)));
const s: Sound = { type: 'sound', rate: 44100, channels: stereo ? [ch, ch.map(v=>-v)] : [ch] };
const r = await readStock('a.wav', wavBytes(s)) as Sound;
console.log(r.rate, r.channels.length, r.channels.map(c=>[c.length, c.findIndex((v,i)=>v!==s.channels[0]![i])]));
}
