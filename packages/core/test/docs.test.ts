import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { catalogue } from '../src';

test('the file format names every kind with every dial', () => {
  const text = readFileSync(join(__dirname, '../../../docs/file-format.md'), 'utf8');
  for (const kinds of Object.values(catalogue)) {
    for (const { kind, dials } of kinds) {
      const line = text.split('\n').find((l) => l.startsWith(`- \`${kind}\``));
      for (const dial of Object.keys(dials)) expect(line).toContain(`\`${dial}\``);
    }
  }
});
