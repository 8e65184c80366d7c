import type { Endpoint } from '@larder/contract/endpoint';
import { costMeasures } from '@larder/contract/values';
import { z } from 'zod';

type Hide = (value: unknown) => unknown;

const hiders = new WeakMap<z.ZodType, Hide | null>();

/** What an endpoint answers, as it is shown to whom may not see cost: what its contract calls cost is empty, and effects on cost are left out. */
export function withoutCosts(endpoint: Endpoint, answer: unknown): unknown {
  return hiderOf(endpoint.response)?.(answer) ?? answer;
}

/** How cost is hidden in what is of this type; null where there is none in it. */
function hiderOf(type: z.ZodType): Hide | null {
  let hide = hiders.get(type);
  if (hide === undefined) {
    hide = makeHider(type);
    hiders.set(type, hide);
  }
  return hide;
}

function makeHider(type: z.ZodType): Hide | null {
  if (type.meta()?.cost === true) return (value) => (value === null || value === undefined ? value : '');
  if (type instanceof z.ZodNullable || type instanceof z.ZodOptional || type instanceof z.ZodDefault) {
    const hide = hiderOf(type.unwrap() as z.ZodType);
    return hide && ((value) => (value === null || value === undefined ? value : hide(value)));
  }
  if (type instanceof z.ZodArray) {
    const element = type.element as z.ZodType;
    if (element.meta()?.effect === true) return (rows) => (rows as { measure: string }[]).filter(({ measure }) => !costMeasures.includes(measure));
    if (element.meta()?.cost === true) return () => null;
    const hide = hiderOf(element);
    return hide && ((rows) => (rows as unknown[]).map(hide));
  }
  if (type instanceof z.ZodUnion) {
    const hides = type.options.map((option) => hiderOf(option as z.ZodType));
    if (hides.some((hide) => hide !== null)) throw new Error('what may be of several types has cost in it, and which it is is not known');
    return null;
  }
  if (!(type instanceof z.ZodObject)) return null;
  const fields = Object.entries(type.shape as Record<string, z.ZodType>).flatMap(([name, field]) => {
    const hide = hiderOf(field);
    return hide ? [[name, hide] as const] : [];
  });
  if (fields.length === 0) return null;
  return (value) => {
    const shown: Record<string, unknown> = { ...(value as object) };
    for (const [name, hide] of fields) if (name in shown) shown[name] = hide(shown[name]);
    return shown;
  };
}
