import 'reflect-metadata';
import { IsInt, IsOptional } from 'class-validator';

/** What a form sends. version: of the thing as it was when the form began with it; absent: as it is now. */
export abstract class Versioned {
  @IsOptional()
  @IsInt({ message: 'a version is a whole number' })
  version?: number;
}
