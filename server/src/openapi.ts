import { writeFileSync } from 'node:fs';
import { NestFactory } from '@nestjs/core';
import { describeApi } from './app.ts';
import { AppModule } from './app.module.ts';

/** Writes the OpenAPI document, for the web's types: `node dist/openapi.js FILE`. Needs no database. */
const file = process.argv[2];
if (!file) throw new Error('openapi: name the file to write');
const app = await NestFactory.create(AppModule, { preview: true, logger: false });
app.setGlobalPrefix('api');
writeFileSync(file, JSON.stringify(describeApi(app), null, 2));
