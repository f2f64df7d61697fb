import type { Someone } from '@veldtwind/contract';

/** A page that says nothing for so long is gone, ms; pages speak every twenty seconds, and at each step. */
const PATIENCE = 45_000;
const MOST_PAGES = 200;

/** Who is in which project, and where. Kept in memory: after a restart pages say it again. */
export class Presence {
  private readonly pages = new Map<string, Map<string, Someone & { seen: number }>>();

  /** @param tell is called when somebody came, moved or left. */
  constructor(private readonly tell: (project: string, people: Someone[]) => void) {
    setInterval(() => this.sweep(), PATIENCE / 3).unref();
  }

  here(project: string, one: Someone): Someone[] {
    const pages = this.pages.get(project) ?? new Map<string, Someone & { seen: number }>();
    this.pages.set(project, pages);
    const before = pages.get(one.tab);
    if (before || pages.size < MOST_PAGES) pages.set(one.tab, { ...one, seen: Date.now() });
    const { seen, ...was } = before ?? { seen: 0 };
    if (seen === 0 || JSON.stringify(was) !== JSON.stringify(one)) this.tell(project, this.of(project));
    return this.of(project);
  }

  gone(project: string, tab: string): void {
    if (this.pages.get(project)?.delete(tab)) this.tell(project, this.of(project));
  }
  /** A person whose access has ended is nowhere any more. */
  drop(person: string): void {
    for (const [project, pages] of this.pages)
      for (const [tab, one] of pages) if (one.person === person) this.gone(project, tab);
  }

  of(project: string): Someone[] {
    return [...(this.pages.get(project)?.values() ?? [])].map(({ seen: _, ...one }) => one);
  }

  private sweep(): void {
    for (const [project, pages] of this.pages) {
      for (const [tab, one] of pages) if (Date.now() - one.seen > PATIENCE) this.gone(project, tab);
      if (pages.size === 0) this.pages.delete(project);
    }
  }
}
