import { Module } from '@nestjs/common';
import { LiveController } from './live.controller.ts';
import { LiveService } from './live.service.ts';

@Module({ controllers: [LiveController], providers: [LiveService], exports: [LiveService] })
export class LiveModule {}
