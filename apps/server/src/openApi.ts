import type { INestApplication } from '@nestjs/common';
import { DocumentBuilder, SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import '@anchorbeat/contract';
import { PIECE_SCHEMA } from '@anchorbeat/formats';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';

type Schemas = NonNullable<NonNullable<OpenAPIObject['components']>['schemas']>;

/** The OpenAPI document; request bodies are described by the very rules that validate them. */
export function openApiDocument(app: INestApplication): OpenAPIObject {
  const config = new DocumentBuilder().setTitle('Anchorbeat').setVersion('1').build();
  const document = SwaggerModule.createDocument(app, config);
  const requests = validationMetadatasToSchemas({
    additionalConverters: { isPiece: () => ({ $ref: '#/components/schemas/PieceDocument' }) },
  });
  const schemas = {
    ...document.components?.schemas,
    ...requests,
    PieceDocument: PIECE_SCHEMA,
  } as unknown as Schemas;
  return { ...document, components: { ...document.components, schemas } };
}
