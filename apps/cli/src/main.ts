import { Command } from 'commander';
import { runBuild, runCheck, runEdit, runProbe } from './commands.ts';
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
  .action((map: string, options: { preset: string; out: string }) => void (process.exitCode = runBuild(map, options)));

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
  .command('probe')
  .description('say what is at some points of a map')
  .argument('<map>', 'a .yesca.json file')
  .requiredOption('--points <file>', 'JSON: a list of {"at":[x,y,z],"normal":[x,y,z]}')
  .option('--json', 'as JSON')
  .action(
    (map: string, options: { points: string; json?: boolean }) => void (process.exitCode = runProbe(map, options)),
  );

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
