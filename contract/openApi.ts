import { z } from 'zod';
import { problem } from './problem.ts';
import { routes } from './routes.ts';
import type { Route } from './routes.ts';

const jsonSchema = (schema: z.ZodType, io: 'input' | 'output') => {
  const { $schema: _dialect, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any' });
  return rest;
};

const content = (schema: z.ZodType, io: 'input' | 'output', type = 'application/json') => ({
  content: { [type]: { schema: jsonSchema(schema, io) } },
});

function parameters({ params, query }: Route): object[] {
  const of = (schema: z.ZodType, place: 'path' | 'query') => {
    const { properties = {}, required = [] } = jsonSchema(schema, 'input');
    return Object.entries(properties).map(([name, property]) => ({
      name,
      in: place,
      required: place === 'path' || required.includes(name),
      schema: property,
    }));
  };
  return [...of(params, 'path'), ...of(query, 'query')];
}

/** Sent again with the same key, a write is done once and answered as it was the first time. */
const ONCE = {
  ...{ name: 'Idempotency-Key', in: 'header', required: false },
  schema: { type: 'string', minLength: 8, maxLength: 100 },
};

function operation(name: string, route: Route): object {
  const takesBody = ['post', 'put', 'patch'].includes(route.method);
  return {
    operationId: name,
    summary: route.summary,
    parameters: [...parameters(route), ...(route.stores ? [ONCE] : [])],
    ...(takesBody ? { requestBody: { required: true, ...content(route.body, 'input') } } : {}),
    responses: {
      [route.status]: { description: route.summary, ...content(route.response, 'output') },
      default: {
        description: 'A problem, with what would mend it (RFC 9457)',
        ...content(problem, 'output', 'application/problem+json'),
      },
    },
  };
}

/** The API as OpenAPI 3.1, made from the same table the server mounts. */
export function openApi(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const [name, route] of Object.entries<Route>(routes))
    (paths[`/api${route.path}`] ??= {})[route.method] = operation(name, route);
  return {
    openapi: '3.1.0',
    info: { title: 'Tembrix', version: '0.1.0', summary: 'Memory upgrades, planned and proven' },
    paths,
  };
}
