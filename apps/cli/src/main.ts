import { Command } from 'commander';
import { runBuild, runCheck, runEdit, runProbe } from './commands.ts';
import { runDraw, type DrawOptions } from './draw.ts';
import { Unusable } from './input.ts';

const program = new Command('yesca')
  .description('Builds and checks Yesca maps without a server. Exit codes: 0 fine, 1 problems found, 2 unusable input.')
  .exitOverride();

program
  .command('build')
  .description('build a level and its report')
  .argument('<map>', 'a .yesca.json file')
  .requiredOption('--out <folder>', 'where level.yescalevel and report.json go')
  .option('--preset <preset>', 'sketch, review or final', 'review')
  .action(async (map: string, options: { preset: string; out: string }) => {
    process.exitCode = await runBuild(map, options);
  });

program
  .command('check')
  .description('list what is wrong with a map')
  .argument('<map>', 'a .yesca.json file')
  .option('--json', 'as JSON')
  .action((map: string, options: { json?: boolean }) => void (process.exitCode = runCheck(map, options)));

program
  .command('edit')
  .description('do a list of commands to a map; docs/commands.md tells them')
  .argument('<map>', 'a .yesca.json file')
  .requiredOption(
    '--script <commands>',
    'JSON: commands with their arguments, as the palette’s Copy as commands gives them',
  )
  .requiredOption('--out <map>', 'where the changed map goes; may be the same file')
  .action((map: string, options: { script: string; out: string }) => void (process.exitCode = runEdit(map, options)));

program
  .command('draw')
  .description('draw the plan or a section of a map, true to scale, as SVG')
  .argument('<map>', 'a .yesca.json file')
  .requiredOption('--out <svg>', 'where the drawing goes')
  .option('--height <cm>', 'cut the plan so high; left out it is a metre above the first spawn')
  .option(
    '--section <x,y,looks>',
    'in place of the plan: cut upright through a point, looking so many degrees from east',
  )
  .option('--depth <cm>', 'draw no more than so far beyond the section')
  .option('--scale <n>', 'so many cm of the map are one cm of paper', '100')
  .option('--no-things', 'without symbols of things')
  .option('--no-names', 'without names of rooms')
  .option('--grid', 'with the lines of the grid')
  .action((map: string, options: DrawOptions) => void (process.exitCode = runDraw(map, options)));

program
  .command('probe')
  .description('say what is at some points of a map')
  .argument('<map>', 'a .yesca.json file')
  .requiredOption('--points <file>', 'JSON: a list of {"at":[x,y,z],"normal":[x,y,z]}')
  .option('--json', 'as JSON')
  .action(
    (map: string, options: { points: string; json?: boolean }) => void (process.exitCode = runProbe(map, options)),
  );

program
  .command('props')
  .description('look at models that are to become props')
  .command('check')
  .description('tell what of models would be imported, and why not')
  .argument('<files...>', '.glb, .gltf with its files beside it, or a ZIP of one')
  .option('--scale <m>', 'so many m is one of its units; 0.01 for cm. Left out it is guessed')
  .option('--json', 'as JSON')
  .action(async (files: string[], options: { json?: boolean; scale?: string }) => {
    // What reads models is much, and nothing else needs it.
    const { runPropsCheck } = await import('./props.ts');
    process.exitCode = await runPropsCheck(files, options);
  });

try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof Unusable) {
    console.error(error.message);
    process.exitCode = 2;
  } else if ((error as { code?: string }).code?.startsWith('commander.')) {
    // Help and version end well; a wrong call has been explained already.
    process.exitCode = (error as { exitCode: number }).exitCode === 0 ? 0 : 2;
  } else throw error;
}
