import { init } from 'license-checker-rseidelsohn';
import { main, Plain } from './lib/options.ts';
import { ROOT } from './lib/processes.ts';

/** Licences that a package states in a text of its own, which the checker does not know by name. */
const READ_BY_US: Readonly<Record<string, string>> = {
  'dejavu-fonts-ttf': 'Bitstream Vera and Arev fonts licence, as its LICENSE says',
};

interface Found {
  licenses?: string | string[];
}

/** Lists what we are made of with its licence; ends as a failure where one is not known. */
await main(async () => {
  const packages = await new Promise<Record<string, Found>>((resolve, reject) =>
    init({ start: ROOT, excludePrivatePackages: true }, (error, found) =>
      error ? reject(error) : resolve(found as Record<string, Found>),
    ),
  );
  const unknown: string[] = [];
  for (const [name, { licenses = 'UNKNOWN' }] of Object.entries(packages)) {
    const bare = name.slice(0, name.lastIndexOf('@'));
    const licence = READ_BY_US[bare] ?? [licenses].flat().join(', ');
    console.log(`${name}\t${licence}`);
    if (/UNKNOWN|UNLICENSED|^Custom/.test(licence)) unknown.push(name);
  }
  if (unknown.length > 0) throw new Plain(`The licence of ${unknown.join(', ')} is not known.`);
  console.log(`${Object.keys(packages).length} packages, every licence known.`);
});
