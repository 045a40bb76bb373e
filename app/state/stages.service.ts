import { computed, inject, Injectable, InjectionToken, Injector, signal } from '@angular/core';
import type { AnyTool, Get, StageCommand, StageDescriptor, StageLink } from './stage';
import { ViewStore } from './view.store';

/** The stages in the order of work; the features give them. */
export const STAGE_LINKS = new InjectionToken<readonly StageLink[]>('stages', { factory: () => [] });

/** Knows the stages, loads each when it is first wanted, and tells what they bring: tools, commands, settings. */
@Injectable({ providedIn: 'root' })
export class StagesService {
  private readonly view = inject(ViewStore);
  private readonly injector = inject(Injector);
  readonly links = inject(STAGE_LINKS);

  private readonly loaded = signal<ReadonlyMap<string, StageDescriptor>>(new Map());
  private readonly loading = new Map<string, Promise<StageDescriptor>>();

  /** Stages that are here, in the order of work. */
  readonly here = computed(() => this.links.flatMap(({ name }) => this.loaded().get(name) ?? []));
  readonly current = computed(() => this.loaded().get(this.view.stage()) ?? null);
  readonly commands = computed((): readonly StageCommand[] => this.here().flatMap((stage) => [...toolCommands(stage, this), ...stage.commands]));
  private readonly tools = computed(() => new Map(this.here().flatMap((stage) => stage.tools.map((entry) => [entry.name, entry] as const))));
  /** Whether the tool in use draws on the plane. */
  readonly draws = computed(() => this.tool(this.view.tool())?.draws === true);

  /** Gives a service to what a stage brings. */
  readonly get: Get = (token) => this.injector.get(token);

  /** A tool by its name; null while no stage that has it is here. */
  tool(name: string): AnyTool | null {
    return this.tools().get(name) ?? null;
  }

  /** Loads a stage; once, however often it is asked for. */
  load(name: string): Promise<StageDescriptor> {
    const link = this.links.find((stage) => stage.name === name);
    if (!link) return Promise.reject(new Error(`There is no stage ${name}.`));
    const known = this.loading.get(name);
    if (known) return known;
    const coming = link.load().then((stage) => {
      this.put(stage);
      return stage;
    });
    this.loading.set(name, coming);
    // Without the network it may come another time.
    coming.catch(() => this.loading.delete(name));
    return coming;
  }

  /** A stage that has come. */
  put(stage: StageDescriptor): void {
    this.loaded.update((map) => new Map(map).set(stage.name, stage));
    stage.begins?.(this.get);
  }

  async loadAll(): Promise<void> {
    await Promise.allSettled(this.links.map(({ name }) => this.load(name)));
  }

  /** Goes to a stage, at once where it is here, and takes one of its tools: else the one in use where the stage has it. */
  go(name: string, tool?: string): void {
    const here = this.loaded().get(name);
    if (here) this.enter(here, tool);
    else void this.load(name).then((stage) => this.enter(stage, tool));
  }

  private enter({ name, tools }: StageDescriptor, tool?: string): void {
    this.view.setStage(
      name,
      tools.map((entry) => entry.name),
    );
    if (tool !== undefined) this.view.setTool(tool);
  }
}

/** A command for each tool that has words for it: it stays in the stage where that has the tool too. */
function toolCommands(stage: StageDescriptor, stages: StagesService): readonly StageCommand[] {
  return stage.tools.flatMap(({ name, find, words }) =>
    find === undefined
      ? []
      : {
          id: `tool.${name}`,
          title: find,
          keys: [],
          group: 'Tools' as const,
          ...(words !== undefined && { words }),
          run: (get: Get) => (stages.current()?.tools.some((entry) => entry.name === name) ? get(ViewStore).setTool(name) : stages.go(stage.name, name)),
        },
  );
}
