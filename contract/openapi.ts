import { z } from 'zod';
import type { Endpoint } from './endpoint';
import { Problem } from './values';

const schema = (type: z.ZodType, io: 'input' | 'output') => z.toJSONSchema(type, { target: 'draft-2020-12', io, unrepresentable: 'any' });

/** The OpenAPI 3.1 document of the endpoints. */
export function openapi(endpoints: readonly Endpoint[]): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const endpoint of endpoints) {
    const path = endpoint.path.replace(/:(\w+)/g, '{$1}');
    (paths[path] ??= {})[endpoint.method.toLowerCase()] = operation(endpoint);
  }
  return { openapi: '3.1.0', info: { title: 'Tidy Larder', version: '0.1.0' }, paths };
}

function operation(endpoint: Endpoint): object {
  const header = { name: 'Idempotency-Key', in: 'header', required: true, schema: { type: 'string' } };
  const preview = { name: 'preview', in: 'query', schema: { type: 'boolean' }, description: 'Answer the effects and change nothing' };
  return {
    summary: endpoint.summary,
    tags: [endpoint.path.split('/')[2]],
    'x-right': endpoint.right,
    parameters: [
      ...fields(endpoint.params, 'path'),
      ...fields(endpoint.query, 'query'),
      ...(endpoint.once ? [header] : []),
      ...(endpoint.posts ? [preview] : []),
    ],
    ...(endpoint.method === 'GET' ? {} : { requestBody: { content: { 'application/json': { schema: schema(endpoint.body, 'input') } } } }),
    responses: {
      200: {
        description: 'Done',
        content: endpoint.file === null ? { 'application/json': { schema: schema(endpoint.response, 'output') } } : { [endpoint.file]: {} },
      },
      default: { description: 'Refused, and why', content: { 'application/problem+json': { schema: schema(Problem, 'output') } } },
    },
  };
}

function fields(type: z.ZodType, where: 'path' | 'query'): object[] {
  const { properties = {}, required = [] } = schema(type, 'input') as { properties?: Record<string, object>; required?: string[] };
  return Object.entries(properties).map(([name, property]) => ({ name, in: where, required: where === 'path' || required.includes(name), schema: property }));
}
