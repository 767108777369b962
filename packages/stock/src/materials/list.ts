// Written by `npm run stock`.
import type { Material } from './types.ts';

export const MATERIALS: readonly Material[] = [
  {"name":"limewash","label":"Limewash","tags":["plaster","wall","pale"],"width":512,"height":512,"texelsPerCm":2,"average":"#d6cebd"},
  {"name":"tide-stone","label":"Tide-stained stone","tags":["stone","wall","wet"],"width":512,"height":512,"texelsPerCm":2,"average":"#60635c"},
  {"name":"oak-plank","label":"Oak plank","tags":["wood","floor"],"width":512,"height":512,"texelsPerCm":2,"average":"#7c5837"},
  {"name":"slate","label":"Slate","tags":["stone","floor","roof"],"width":512,"height":512,"texelsPerCm":2,"average":"#444b54"},
  {"name":"brass","label":"Brass","tags":["metal","trim"],"width":512,"height":512,"texelsPerCm":2,"average":"#96753d"},
  {"name":"wet-sand","label":"Wet sand","tags":["ground","wet"],"width":512,"height":512,"texelsPerCm":2,"average":"#817057"},
  {"name":"roof-tile","label":"Roof tile","tags":["roof","clay"],"width":512,"height":512,"texelsPerCm":2,"average":"#7c412f"},
  {"name":"canvas","label":"Canvas","tags":["cloth","pale"],"width":512,"height":512,"texelsPerCm":2,"average":"#b2a384"},
  {"name":"red-brick","label":"Red brick","tags":["brick","wall"],"width":512,"height":512,"texelsPerCm":2,"average":"#7b4f42"},
  {"name":"black-iron","label":"Black iron","tags":["metal","dark"],"width":512,"height":512,"texelsPerCm":2,"average":"#36373b"},
  {"name":"tarred-board","label":"Tarred board","tags":["wood","wall","dark"],"width":512,"height":512,"texelsPerCm":2,"average":"#35312d"},
  {"name":"cobble","label":"Quay cobble","tags":["stone","ground","floor"],"width":512,"height":512,"texelsPerCm":2,"average":"#6c6863"},
  {"name":"dark-water","label":"Race water","tags":["water","wet","dark"],"width":512,"height":512,"texelsPerCm":2,"average":"#304a4c"},
  {"name":"sea-paint","label":"Sea-green paint","tags":["wood","trim","painted"],"width":512,"height":512,"texelsPerCm":2,"average":"#53796d"},
  {"name":"sackcloth","label":"Sackcloth","tags":["cloth","brown"],"width":512,"height":512,"texelsPerCm":2,"average":"#836846"},
]; // prettier-ignore
