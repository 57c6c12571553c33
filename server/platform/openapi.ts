import { z } from 'zod';
import { API } from '@tallystick/contract/index';
import { ApiError } from '@tallystick/contract/common';
import type { AnyEndpoint } from '@tallystick/contract/endpoint';
import { escapeHtml } from '@tallystick/core/letters';

type Json = Record<string, unknown>;

const schemaOf = (type: z.ZodType, io: 'input' | 'output'): Json => {
  const { $schema: _dialect, ...schema } = z.toJSONSchema(type, {
    io,
    unrepresentable: 'any',
    reused: 'inline',
    cycles: 'ref',
  }) as Json;
  return schema;
};

function parametersOf(endpoint: AnyEndpoint): Json[] {
  const from = (type: z.ZodType, place: 'path' | 'query'): Json[] => {
    const schema = schemaOf(type, 'input') as { properties?: Record<string, Json>; required?: string[] };
    return Object.entries(schema.properties ?? {}).map(([name, inner]) => ({
      name,
      in: place,
      required: place === 'path' || (schema.required ?? []).includes(name),
      schema: inner,
    }));
  };
  return [...from(endpoint.params, 'path'), ...from(endpoint.query, 'query')];
}

function operation(endpoint: AnyEndpoint): Json {
  const hasBody = !['get', 'delete'].includes(endpoint.method) && endpoint.role !== undefined;
  const media = endpoint.produces ?? 'application/json';
  return {
    operationId: endpoint.id,
    tags: [endpoint.area],
    summary: endpoint.summary,
    'x-role': endpoint.role,
    ...(endpoint.role === 'public' ? { security: [] } : {}),
    parameters: parametersOf(endpoint),
    ...(hasBody
      ? {
          requestBody: {
            content: endpoint.consumes
              ? { [endpoint.consumes]: {} }
              : { 'application/json': { schema: schemaOf(endpoint.body, 'input') } },
          },
        }
      : {}),
    responses: {
      200: {
        description: 'Done.',
        content: { [media]: media === 'application/json' ? { schema: schemaOf(endpoint.response, 'output') } : {} },
      },
      default: {
        description: 'What went wrong.',
        content: { 'application/json': { schema: { $ref: '#/components/schemas/Error' } } },
      },
    },
  };
}

/** The OpenAPI 3.1 document of the whole contract. */
export function openApi(version: string): Json {
  const paths: Record<string, Json> = {};
  for (const endpoint of API) {
    const path = endpoint.path.replace(/:(\w+)/g, '{$1}');
    paths[path] = { ...paths[path], [endpoint.method]: operation(endpoint) };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Tallystick',
      version,
      description:
        'Amounts are whole cents, dates are YYYY-MM-DD, instants are UTC. Programs send `Authorization: Bearer <token>`.',
    },
    servers: [{ url: '/api/v1' }],
    security: [{ token: [] }, { session: [] }],
    components: {
      schemas: { Error: schemaOf(ApiError, 'output') },
      securitySchemes: {
        token: { type: 'http', scheme: 'bearer' },
        session: { type: 'apiKey', in: 'cookie', name: 'tallystick_session' },
      },
    },
    paths,
  };
}

const STYLE = `body{font:15px/1.5 system-ui,sans-serif;margin:2rem auto;max-width:60rem;padding:0 1rem;color:#23272f;background:#fbf8f2}
h1,h2{font-family:Georgia,serif;font-weight:600}h2{border-bottom:1px solid #e4dccf;text-transform:capitalize}code{background:#fff;border:1px solid #e4dccf;border-radius:3px;padding:0 .3rem}
dt{margin-top:1rem;font-weight:600}dd{margin:.2rem 0 0}summary{cursor:pointer;color:#2f5277}pre{background:#fff;border:1px solid #e4dccf;padding:.6rem;overflow:auto;font-size:13px}.role{color:#646a73}`;

/** The same for people: every endpoint with what it takes and answers. */
export function apiPage(): string {
  const areas = [...new Set(API.map((endpoint) => endpoint.area))];
  const part = (title: string, type: z.ZodType, io: 'input' | 'output'): string => {
    const schema = schemaOf(type, io);
    const empty =
      schema['type'] === 'object' && Object.keys((schema['properties'] as Json | undefined) ?? {}).length === 0;
    return empty
      ? ''
      : `<details><summary>${title}</summary><pre>${escapeHtml(JSON.stringify(schema, null, 2))}</pre></details>`;
  };
  const entry = (endpoint: AnyEndpoint): string =>
    `<dt><code>${endpoint.method.toUpperCase()} /api/v1${escapeHtml(endpoint.path)}</code> <span class="role">${endpoint.role}</span></dt>
     <dd>${escapeHtml(endpoint.summary)}${part('Query', endpoint.query, 'input')}${part('Body', endpoint.body, 'input')}${part('Answer', endpoint.response, 'output')}</dd>`;
  const body = areas
    .map(
      (area) =>
        `<h2 id="${area}">${area}</h2><dl>${API.filter((endpoint) => endpoint.area === area)
          .map(entry)
          .join('')}</dl>`,
    )
    .join('');
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>Tallystick API</title><link rel="stylesheet" href="/api/v1/docs.css"><body><h1>Tallystick API</h1>
    <p>The same as <a href="/api/v1/openapi.json">OpenAPI 3.1</a>. Amounts are whole cents, dates are YYYY-MM-DD. Programs send <code>Authorization: Bearer</code> with a token; writes that must not run twice take an <code>Idempotency-Key</code>. Every error has the shape <code>{"error": {"code", "message", "fields"?}}</code>.</p>${body}</body></html>`;
}
export const API_STYLE = STYLE;
