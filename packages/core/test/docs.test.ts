import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { catalogue } from '../src';

test('the file format names every kind with every dial', () => {
  const text = readFileSync(join(__dirname, '../../../docs/file-format.md'), 'utf8');
  for (const [shelf, kinds] of Object.entries(catalogue)) {
    // Kinds of different shelves may have one name.
    const section = text.split(`\n### ${shelf}\n`)[1]!.split('\n### ')[0]!;
    for (const { kind, dials } of kinds) {
      const line = section.split('\n').find((l) => l.startsWith(`- \`${kind}\``));
      for (const dial of Object.keys(dials)) expect(line).toContain(`\`${dial}\``);
    }
  }
});
