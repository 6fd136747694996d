import { z } from 'zod';
import { createDocument, type ZodOpenApiOperationObject, type ZodOpenApiPathsObject } from 'zod-openapi';
import { faults, faultSchema, writeKeyHeader, writeKeySchema } from '@vast-surge/contract';
import { rigFileJsonSchema } from '@vast-surge/core/format';
import { rigDocumentSchema } from '@vast-surge/core/rig';
import type { ApiRoute, FileType } from './route.ts';
import { apiRoutes } from './routes.ts';

const json = (schema: z.ZodType) => ({ 'application/json': { schema } });
const content = (body: z.ZodType | FileType) =>
  typeof body !== 'string'
    ? json(body)
    : { [body]: { schema: { type: 'string' as const, ...(body === 'application/zip' ? { format: 'binary' } : {}) } } };

const fault = faultSchema.meta({ id: 'Fault' });

/** What any route may answer instead, by status. */
const failures = Object.fromEntries(
  [...new Set(Object.values(faults))].map((status) => [
    String(status),
    {
      description: Object.entries(faults)
        .flatMap(([code, of]) => (of === status ? [code] : []))
        .join(', '),
      content: json(fault),
    },
  ]),
);

function operation({ method, path, about, query, body, answer: [status, answer], writes }: ApiRoute): ZodOpenApiOperationObject {
  const ids = [...path.matchAll(/:(\w+)/g)].map(([, name = '']) => [name, name === 'id' ? z.uuid() : z.int().min(0)] as const);
  const [room = ''] = path.slice(1).split('/');
  return {
    operationId: [method, ...path.split(/[/:.]+/).filter(Boolean)].join('-'),
    summary: about,
    tags: [room.replace('.json', '')],
    requestParams: {
      ...(ids.length > 0 ? { path: z.object(Object.fromEntries(ids)) } : {}),
      ...(query ? { query: z.object(query).partial() } : {}),
      ...(writes ? { header: z.object({ [writeKeyHeader]: writeKeySchema }) } : {}),
    },
    ...(body ? { requestBody: { required: true, content: content(body) } } : {}),
    responses: { [String(status)]: { description: 'Done.', content: content(answer) }, ...failures },
  };
}

const isDocument = (schema: unknown): boolean =>
  schema instanceof z.ZodObject && 'rig' in schema.shape && schema.shape['rig'] === rigDocumentSchema.shape.rig;

const inRig = 'RigDocument.';

/** The document of a rig and what it is made of, out of the schema of its file. */
function rigSchemas(): Record<string, object> {
  const {
    $schema: _dialect,
    $defs = {},
    properties = {},
    required = [],
    ...rest
  } = rigFileJsonSchema() as {
    $schema?: string;
    $defs?: Record<string, object>;
    properties?: Record<string, object>;
    required?: string[];
  };
  const inDocument = (name: string) => name in rigDocumentSchema.shape;
  const document = {
    ...rest,
    properties: Object.fromEntries(Object.entries(properties).filter(([name]) => inDocument(name))),
    required: required.filter(inDocument),
  };
  return {
    RigDocument: document,
    ...Object.fromEntries(Object.entries($defs).map(([name, schema]) => [`${inRig}${name}`, schema])),
  };
}

/**
 * The API as OpenAPI 3.1, written from the schemas by which it checks what comes in.
 *
 * @param version of the program
 */
export function openApi(version: string): object {
  const paths: ZodOpenApiPathsObject = {};
  for (const route of apiRoutes) {
    const path = `/api${route.path.replaceAll(/:(\w+)/g, '{$1}')}`;
    paths[path] = { ...paths[path], [route.method]: operation(route) };
  }
  const document = createDocument(
    {
      openapi: '3.1.0',
      info: {
        title: 'Vast Surge',
        version,
        description: `Every write carries ${writeKeyHeader}: a UUID of its own, the same when it is sent again; the server does each once. Only pages of this server and programs on this machine are answered; where the workshop is open to other devices, over TLS and to those who are signed in. Values are in SI units.`,
      },
      paths,
    },
    {
      // The document of a rig is described once, by the schema that is published with its file format.
      override: ({ jsonSchema, zodSchema, io }) => {
        const drawn = jsonSchema as Record<string, unknown>;
        if (isDocument(zodSchema)) {
          for (const key of Object.keys(drawn)) Reflect.deleteProperty(drawn, key);
          drawn['$ref'] = '#/components/schemas/RigDocument';
        } else if (io === 'output' && zodSchema instanceof z.ZodPipe && Object.keys(drawn).length === 0) {
          // What is read is only given its type by then: it goes out as it came in.
          const { $schema: _dialect, ...asSent } = z.toJSONSchema(zodSchema, { io: 'input', unrepresentable: 'any' });
          Object.assign(drawn, asSent);
        }
      },
      allowEmptySchema: { custom: true, transform: true, pipe: true },
    },
  );
  const whole = {
    ...document,
    components: { ...document.components, schemas: { ...document.components?.schemas, ...rigSchemas() } },
  };
  // Fields of blocks and of parts refer to what the file of a rig defines.
  return JSON.parse(JSON.stringify(whole).replaceAll('"#/$defs/', `"#/components/schemas/${inRig}`)) as object;
}
