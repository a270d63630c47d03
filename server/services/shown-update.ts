import type { Context, Server } from './context'
import { maskFor } from './masking'
import { requirePackage } from './pantry'
import { readChoices, type ChoiceInput } from './update-choices'
import { planUpdate, type PlanFile, type UpdatePlan } from './updates'

/** The plan as it is looked at: secrets are dots, in texts and in what is said of each decision. */
export async function shownUpdate(context: Context, server: Server, plugin: string, packageId: number): Promise<UpdatePlan> {
  const plan = await planUpdate(context, server, plugin, packageId)
  return { ...plan, files: await Promise.all(plan.files.map((file) => maskedFile(context, server, file))) }
}

async function maskedFile(context: Context, server: Server, file: PlanFile): Promise<PlanFile> {
  const { factory, mine, update, old, result } = file
  const mask = await maskFor(context, server, file.from ?? file.path, [factory, mine, update, old, result])
  return {
    ...file,
    factory: mask.text(factory),
    mine: mask.text(mine),
    update: mask.text(update),
    old: mask.text(old),
    result: mask.text(result, mine),
    decisions: file.decisions.map((decision) => mask.change(decision)),
  }
}

/** Records one choice, or takes it back with null; gives the plan as it then is, as it is looked at. */
export async function choose(context: Context, server: Server, plugin: string, input: ChoiceInput): Promise<UpdatePlan> {
  const { packageId, path, decision, choice } = input
  await requirePackage(context, server, packageId)
  await context.packages.changeChoices(server.row.id, packageId, (json) => {
    const all = readChoices(json)
    const { [decision]: _old, ...others } = all[path] ?? {}
    return JSON.stringify({ ...all, [path]: choice ? { ...others, [decision]: choice } : others })
  })
  return shownUpdate(context, server, plugin, packageId)
}
