import { Command, CommanderError, Option } from 'commander'
import { FORMAT_IDS, type FormatId } from '@pasticcio/core'
import { runCarry } from './commands/carry'
import { runCheck } from './commands/check'
import { runGet, runSet } from './commands/get-set'
import { runLayer } from './commands/layer'
import { CliError, EXIT } from './errors'
import type { Streams } from './streams'
import { VERSION } from './version'

/**
 * Runs one command line.
 * @returns the exit code: 0 done, 1 wrong use or unreadable files, 2 input that does not parse, 3 done but something needs a look.
 */
export async function main(args: readonly string[], streams: Streams): Promise<number> {
  let code: number = EXIT.done
  const program = new Command('pasticcio')
    .description('Edits plugin settings files without loss and carries customisations over updates.')
    .version(VERSION)
    .exitOverride()
    .configureOutput({ writeOut: (text) => streams.out(text), writeErr: (text) => streams.err(text) })
  const format = (): Option => new Option('--format <id>', 'the format, when the ending does not tell').choices([...FORMAT_IDS])
  program
    .command('carry')
    .description('put my customisations onto an update')
    .requiredOption('--factory <old>', 'factory copy of the version in use; a file or folder ("-" when it is not known)')
    .requiredOption('--mine <mine>', 'my file or folder')
    .requiredOption('--update <new>', 'factory copy of the new version')
    .option('--out <file>', 'where the result goes; standard output without it (needed for folders)')
    .option('--report <file>', 'where the decisions go, as JSON')
    .addOption(new Option('--shape <shape>', 'whose text is kept').choices(['update', 'mine']).default('update'))
    .addOption(format())
    .action(async (options: Parameters<typeof runCarry>[0]) => void (code = await runCarry(options, streams)))
  program
    .command('layer')
    .description('list what is mine')
    .requiredOption('--factory <old>', 'factory copy')
    .requiredOption('--mine <mine>', 'my file or folder')
    .option('--json', 'as JSON')
    .addOption(format())
    .action(async (options: Parameters<typeof runLayer>[0]) => void (code = await runLayer(options, streams)))
  program
    .command('check')
    .description('find mistakes')
    .argument('<files...>')
    .option('--rules <file>', 'rules to check values against, as JSON; with --family a rule sheet of one plugin')
    .addOption(new Option('--family <file>', 'check whole servers: each path is the folder of one of this family').conflicts('format'))
    .option('--packages <folder>', 'packages as their authors gave them out, to know what was shipped')
    .option('--json', 'as JSON')
    .addOption(new Option('--sarif', 'as SARIF 2.1.0').conflicts('json'))
    .option('--relaxed-json', 'allow comments and trailing commas in .json')
    .addOption(format())
    .action(async (files: string[], options: Parameters<typeof runCheck>[1]) => void (code = await runCheck(files, options, streams)))
  program
    .command('set')
    .description('set one value in place')
    .argument('<file>')
    .argument('<pointer>')
    .argument('<value>')
    .addOption(format())
    .action(
      async (file: string, pointer: string, value: string, options: { format?: FormatId }) =>
        void (code = await runSet(file, pointer, value, options, streams)),
    )
  program
    .command('get')
    .description('print one value')
    .argument('<file>')
    .argument('<pointer>')
    .addOption(format())
    .action(
      async (file: string, pointer: string, options: { format?: FormatId }) => void (code = await runGet(file, pointer, options, streams)),
    )
  try {
    await program.parseAsync([...args], { from: 'user' })
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? EXIT.done : EXIT.misuse
    if (!(error instanceof CliError)) throw error
    streams.err(`pasticcio: ${error.message}\n`)
    return error.exit
  }
  return code
}
