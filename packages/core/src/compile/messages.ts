import { brushBounds, DRAWN_ROLES } from '../brush/index.ts';
import { BUILD_RULES, runChecks, type Finding } from '../checks/index.ts';
import { entityName, reflects } from '../entity/index.ts';
import { SKY_SIDES, type MapDocument } from '../map/index.ts';
import { boxCenter } from '../math/index.ts';
import type { MaterialLookup } from '../surface/index.ts';
import { gatesOf } from './level/index.ts';
import { glaring, MOST_REFLECTIONS, type Lighting, type Reflections } from './lighting/index.ts';
import { areasOf, placesOf, type Structure } from './structure/index.ts';
import { kernelStarts } from './tracing/index.ts';
import type { Visibility } from './visibility/index.ts';

/** A distant scenery that was built: its brushes with those of its sky, its triangles, the bytes of its level, and what was told of it. */
export interface FarAway {
  readonly brushes: number;
  readonly triangles: number;
  readonly bytes: number;
  readonly messages: readonly Finding[];
}

/** What the messages of a build are about. */
export interface Heard {
  readonly doc: MapDocument;
  readonly structure: Structure;
  readonly visibility: Visibility | null;
  readonly lighting: Lighting;
  readonly reflections: Reflections;
  readonly materials: MaterialLookup | undefined;
  readonly far: FarAway | null;
}

/** All that a build has to say of a map. */
export const messagesOf = (heard: Heard): Finding[] => [
  ...messagesOfMap(heard),
  ...(heard.far ? ofScenery(heard.far) : []),
  ...manyProbes(heard.doc),
  ...glare(
    heard.doc,
    glaring(heard.structure, heard.lighting, heard.reflections, heard.materials ?? (() => undefined)),
  ),
];

/** What of a scenery is told beside its map: how much it is, and what does not shine. */
const ofScenery = ({ brushes, triangles, bytes, messages }: FarAway): Finding[] => [
  {
    id: 'build.scenery',
    code: 'build.scenery',
    severity: 'info',
    text: `The distant scenery is ${brushes - SKY_SIDES} brushes and ${triangles} triangles, ${Math.ceil(bytes / 1024)} kB of the level.`,
  },
  ...messages.filter(({ code }) => code === 'build.lightLost' || code === 'build.glowHidden'),
];

function manyProbes({ entities }: MapDocument): Finding[] {
  const count = [...entities.values()].filter(reflects).length;
  const text = `Of ${count} reflection probes ${MOST_REFLECTIONS} are used: the picture of all would be larger than graphics cards take. Remove those that see much the same.`;
  return count > MOST_REFLECTIONS
    ? [{ id: 'build.manyProbes', code: 'build.manyProbes', severity: 'warning', text }]
    : [];
}

const glare = (doc: MapDocument, things: readonly string[]): Finding[] =>
  things.flatMap((id): Finding[] => {
    const thing = doc.entities.get(id);
    if (!thing) return [];
    return [
      {
        id: `build.glare ${id}`,
        code: 'build.glare',
        severity: 'info',
        text: `${entityName(thing)} sees something far brighter than the dark shiny floor that reflects it, so the floor glares. Move it, choose another for the floor, or light the floor.`,
        at: thing.at,
        entities: [id],
      },
    ];
  });

/** What the checks that concern a build say of its structure, and what only a build finds out. */
function messagesOfMap({ doc, structure, visibility, lighting, materials }: Heard): Finding[] {
  const say = (severity: Finding['severity'], code: string, text: string): Finding => ({
    id: code,
    severity,
    code,
    text,
  });
  const out: Finding[] = [];
  if (doc.brushes.size === 0)
    out.push(
      say('error', 'build.empty', 'The map has no brushes. Draw a room first: tool Room, then drag on the Plan.'),
    );
  else if (![...doc.brushes.values()].some((b) => b.role === 'structure'))
    out.push(
      say(
        'error',
        'build.noStructure',
        'No brush has the role Structure, so nothing can be sealed. Set the walls to Structure.',
      ),
    );
  out.push(
    ...runChecks(
      doc,
      {
        leak: structure.leak,
        leaks: structure.leaks,
        gates: structure.leak
          ? []
          : gatesOf(doc, areasOf(structure, doc.brushes.values()), materials ?? (() => undefined)),
        placeOf: placesOf(structure),
        materials,
      },
      BUILD_RULES,
    ),
  );
  out.push(...lostLights(doc, structure, lighting, out, materials));
  if (!kernelStarts())
    out.push(
      say(
        'info',
        'build.plain',
        'WebAssembly cannot start here, so the light was found by plain code: it is the same, but takes several times as long.',
      ),
    );
  if (visibility && visibility.fellBack > 0)
    out.push(
      say(
        'info',
        'build.coarse',
        `${visibility.fellBack} portals were too busy and use the coarse visibility. The level is right, but draws a little more than needed.`,
      ),
    );
  if (visibility) out.push(say('info', 'build.sealed', 'The map is sealed.'));
  return out;
}

/** Lights that reach nothing, and faces that glow where nobody sees them; what is said of a light already is not said again. */
function lostLights(
  doc: MapDocument,
  structure: Structure,
  { lost }: Lighting,
  said: readonly Finding[],
  materials?: MaterialLookup,
): Finding[] {
  const known = new Set(said.flatMap((f) => f.entities ?? []));
  const ofThings = lost.flatMap(({ group }): Finding[] => {
    const thing = doc.entities.get(group);
    if (!thing || known.has(group)) return [];
    const text = `${entityName(thing)} reaches nothing: no light of it falls on any surface. Move it, turn it, or remove it.`;
    return [
      {
        id: `build.lightLost ${group}`,
        code: 'build.lightLost',
        severity: 'warning',
        text,
        at: thing.at,
        entities: [group],
      },
    ];
  });
  const drawn = new Set(structure.surfaces.flatMap((s) => s.brushes.map((brush) => `${brush} ${s.material}`)));
  const hidden = [...doc.brushes.values()].flatMap((brush): Finding[] => {
    const faces = brush.faces.filter((f) => f.show === undefined && (materials?.(f.material)?.glow ?? 0) > 0);
    if (!DRAWN_ROLES.has(brush.role) || faces.length === 0) return [];
    if (faces.some((f) => drawn.has(`${brush.id} ${f.material}`))) return [];
    const text = 'A face that glows is hidden: solids cover it, or it looks out of the map. Move it into the open.';
    const id = `build.glowHidden ${brush.id}`;
    return [
      {
        id,
        code: 'build.glowHidden',
        severity: 'warning',
        text,
        at: boxCenter(brushBounds(brush)),
        brushes: [brush.id],
      },
    ];
  });
  return [...ofThings, ...hidden];
}
