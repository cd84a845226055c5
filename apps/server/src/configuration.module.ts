import { Global, Module, type DynamicModule } from '@nestjs/common';
import { CorrectableClock } from './adapters/correctable-clock.js';
import { CLOCK, clockFrom, systemClock } from './adapters/system-clock.js';
import { CONFIGURATION, type Configuration } from './configuration.js';

/** What comes from outside: the configuration and the clock. */
@Global()
@Module({})
export class ConfigurationModule {
  static with(configuration: Configuration): DynamicModule {
    const { startsAtMs, clock } = configuration;
    const systems = startsAtMs === undefined ? systemClock : clockFrom(startsAtMs);
    return {
      module: ConfigurationModule,
      providers: [
        { provide: CONFIGURATION, useValue: configuration },
        { provide: CorrectableClock, useValue: new CorrectableClock(clock ?? systems) },
        { provide: CLOCK, useExisting: CorrectableClock },
      ],
      exports: [CONFIGURATION, CLOCK, CorrectableClock],
    };
  }
}
