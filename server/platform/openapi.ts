import { z } from 'zod';
import { API } from '@tallystick/contract/index';
import { ApiError } from '@tallystick/contract/common';
import type { AnyEndpoint } from '@tallystick/contract/endpoint';

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
