import { Injectable, type OnModuleInit } from '@nestjs/common';
import type { TerminalSettings, TerminalSettingsView } from '@mistpeak/contract/terminal';
import { DataSource } from 'typeorm';
import { LiveService } from '../live/live.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';

/** Whom the operator calls now and again, and what he says often. */
@Injectable()
export class TerminalService implements OnModuleInit {
  private settings: TerminalSettingsView = { nodes: [], macros: [], version: 0 };

  constructor(
    private readonly database: DataSource,
    private readonly live: LiveService,
  ) {}

  async onModuleInit(): Promise<void> {
    const [row] = await this.database.query<{ settings: TerminalSettings; version: number }[]>(
      'SELECT settings, version FROM terminal_settings WHERE id = 1',
    );
    if (row) this.settings = { ...row.settings, version: row.version };
    this.live.contribute('terminal', () => this.settings);
  }

  async choose({ version, ...given }: TerminalSettings): Promise<TerminalSettingsView> {
    refuseIfChanged(this.settings.version, version);
    const next = this.settings.version + 1;
    await this.database.query(
      `INSERT INTO terminal_settings (id, settings, version) VALUES (1, $1, $2)
       ON CONFLICT (id) DO UPDATE SET settings = excluded.settings, version = excluded.version`,
      [JSON.stringify(given), next],
    );
    this.settings = { ...given, version: next };
    this.live.publish({ kind: 'terminal', data: this.settings });
    return this.settings;
  }
}
