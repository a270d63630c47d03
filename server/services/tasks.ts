import type { Context, Server } from './context'
import { notFound } from './errors'
import { note } from './note'

/** Something a package leaves to people. */
export interface Task {
  readonly plugin: string
  readonly task: string
  /** Null until somebody ticks it off. */
  readonly doneBy: string | null
  readonly doneAt: string | null
}

/** What the plugins of a server leave to people; it stays with the plugin, done or not. */
export async function tasksOf(context: Context, server: Server): Promise<Task[]> {
  const done = await context.tasks.done(server.row.id)
  return (await server.inventory.plugins()).flatMap(({ name, info }) =>
    info.tasks.map((task) => {
      const tick = done.find((item) => item.plugin === name && item.task === task)
      return { plugin: name, task, doneBy: tick?.doneBy ?? null, doneAt: tick?.doneAt ?? null }
    }),
  )
}

/** Ticks a task off, or says that it is open after all. @throws ServiceError `not-found` */
export async function tickTask(
  context: Context,
  server: Server,
  { plugin, task, done }: { readonly plugin: string; readonly task: string; readonly done: boolean },
  account: string,
): Promise<Task[]> {
  const all = await tasksOf(context, server)
  if (!all.some((item) => item.plugin === plugin && item.task === task)) throw notFound(`task of ${plugin} on this server`)
  if (done) await context.tasks.setDone(server.row.id, { plugin, task, doneBy: account, doneAt: context.now().toISOString() })
  else await context.tasks.setOpen(server.row.id, plugin, task)
  await note(context, account, done ? 'task-done' : 'task-open', `${plugin}: ${task}`, server)
  return tasksOf(context, server)
}
