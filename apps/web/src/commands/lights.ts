import { brightness, call, factorFor, layerLuxAt, shines, strengthOf, type Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { materialFacts } from '../state/library.ts';
import { sharesNow, useLit } from '../state/lit.ts';
import { luxThere, placeOf, useMeter } from '../state/meter.ts';
import { notify } from '../state/notify.ts';

/** Lets the meter stay where the pointer is, or go with it again. */
export function holdMeter(): void {
  const { pointed, held } = useMeter.getState();
  const { lit } = useLit.getState();
  if (held) return useMeter.setState({ held: null });
  if (!lit) return notify('There is no light to read yet. Show the Eye as Lit (S).');
  if (!pointed || !placeOf(lit, pointed)) return notify('Point at a lit surface in the Eye: the meter stays there.');
  useMeter.setState({ held: pointed });
}

/** Sets lights so strong together that the place of the meter has so many lux: the chosen ones, or all. */
export function makeLux(wanted: number): void {
  const { held } = useMeter.getState();
  const { lit, alone, out } = useLit.getState();
  const { doc, selection, run } = useEditor.getState();
  const place = lit && held && placeOf(lit, held);
  if (!place) return notify('Let the meter stay at a lit place first: point at it in the Eye and press Alt K.');
  const chosen = [...selection.entities].filter((id) => shines(doc.entities.get(id)!));
  const lights = chosen.length > 0 ? chosen : [...doc.entities.values()].filter((e) => shines(e)).map((e) => e.id);
  const shares = sharesNow(lit, doc, materialFacts, { alone, out });
  const own = lit.ledger.layers
    .filter((l) => lights.includes(l.thing))
    .reduce((sum, layer) => {
      const share = shares.get(layer.thing) as Vec3;
      return sum + brightness(layerLuxAt(layer, place).map((c, k) => c * share[k]!) as unknown as Vec3);
    }, 0);
  const wish = factorFor(wanted, luxThere(lit, held) ?? 0, own);
  const which = chosen.length > 0 ? 'The chosen lights' : 'The lights';
  if ('never' in wish)
    return notify(
      wish.never === 'reach'
        ? `${which} do not reach this place. Choose others, or move them.`
        : `Without them it has ${Math.round(wish.lux * 10) / 10} lux there already. Choose more lights, or dim the others.`,
    );
  const strengths = lights.map((id) => [id, strengthOf(doc.entities.get(id)!) * wish.factor] as const);
  run(call('light.strengths', { strengths: Object.fromEntries(strengths) }));
}
