import type { ProviderToken, Signal, Type } from '@angular/core';
import type { Edit, Plane, PlanePoint } from '@core';
import type { SheetHandle } from '../tools/handle';
import type { Tool } from '../tools/tool';
import type { CommandWords } from './keys';
import type { Setting } from './settings';

/** What is set for the tools of one kind, and what they change of it. */
export interface ToolSettings<T> {
  /** What the tools are given with each event. */
  readonly current: Signal<T>;
  patch(part: Partial<T>): void;
  /** One of the tools has made something. */
  made?(edit: Edit): void;
}

/** A tool's words: what its button says, and how it is found. */
export interface ToolWords {
  readonly name: string;
  readonly title: string;
  /** What the command that takes it says, and what else it is called; tools without are taken by their button alone. */
  readonly find?: string;
  readonly words?: string;
}

/** What makes a tool work, and how it stands among others. */
interface ToolWorks<S, T> {
  readonly tool: Tool<S, T>;
  readonly settings?: ProviderToken<ToolSettings<T>>;
  /** It draws on the plane: the plane's grid is shown over the drawing, and arrow keys move the pointer. */
  readonly draws?: true;
  /** What of its state is kept with the drawing, and the state that takes it up again. */
  readonly draft?: {
    readonly of: (state: S) => { readonly plane: Plane | null; readonly points: readonly PlanePoint[] };
    readonly resume: (plane: Plane, points: readonly PlanePoint[]) => S;
  };
}

/** A tool as the runner takes it, which hands its state back to it and never looks into it. */
export type AnyTool = ToolWords & ToolWorks<unknown, unknown>;

/** A tool's works with their own types checked. */
export const using = <S, T>(works: ToolWorks<S, T>): ToolWorks<unknown, unknown> => works as unknown as ToolWorks<unknown, unknown>;

/** Tools by their words and works. */
export function toolsOf<Name extends string>(
  words: readonly (ToolWords & { readonly name: Name })[],
  works: Readonly<Record<Name, ToolWorks<unknown, unknown>>>,
): readonly AnyTool[] {
  return words.map((own) => ({ ...own, ...works[own.name] }));
}

/** Commands by their words and what they do. */
export function commandsOf<Id extends string>(
  words: readonly (CommandWords & { readonly id: Id })[],
  run: Readonly<Record<Id, StageCommand['run']>>,
): readonly StageCommand[] {
  return words.map((own) => ({ ...own, run: run[own.id] }));
}

/** Gives a service by its class. */
export type Get = <T>(token: ProviderToken<T>) => T;

/** A command with what it does. */
export interface StageCommand extends CommandWords {
  readonly run: (get: Get) => unknown;
}

/** Handles that a stage shows besides the tool's ghost. @param current whether it is the stage that is gone to */
export interface StageHandles {
  handles(current: boolean): readonly SheetHandle[];
}

/** Everything of a stage, loaded when it is first gone to or when there is time: a further tool is a line here. */
export interface StageDescriptor {
  readonly name: string;
  /** Its tools in the order of its bench; a tool's digit is its place. */
  readonly tools: readonly AnyTool[];
  /** The settings below the tools, loaded when they are shown. */
  readonly bench: () => Promise<Type<unknown>>;
  readonly commands: readonly StageCommand[];
  /** Settings that are found by words. */
  readonly settings: readonly Setting[];
  readonly handles?: ProviderToken<StageHandles>;
  /** What is done once it is here. */
  readonly begins?: (get: Get) => void;
  /** Takes files that are dropped or pasted while it is gone to; false for those that it has no use of its own for. */
  readonly files?: (get: Get, files: readonly File[]) => Promise<boolean>;
  /** The page of the guide that tells of it, under `docs/guide`. */
  readonly guide: string;
}

/** A stage before it is loaded. */
export interface StageLink {
  readonly name: string;
  readonly title: string;
  readonly load: () => Promise<StageDescriptor>;
}
