import {
  Box,
  Check,
  ChevronDown,
  ChevronRight,
  Copy,
  Download,
  Eye,
  EyeOff,
  FilePlus,
  FolderOpen,
  Group,
  Images,
  List,
  Lock,
  LockOpen,
  Moon,
  Plus,
  Redo2,
  Search,
  Sun,
  Trash2,
  Undo2,
  Upload,
  X,
  type IconNode,
} from 'lucide';

/** Our own figures, drawn on one 24 px isometric lattice; the rest is from one open set. */
const own: Readonly<Record<string, IconNode>> = {
  pick: [
    ['path', { d: 'M6 4.5 18 11.4l-6 1.2-2.4 5.6z' }],
    ['path', { d: 'm13 13.5 4 5.5' }],
  ],
  outline: [
    ['path', { d: 'M4 15.5 12 20l8-4.5V8.6L12 4' }],
    ['path', { d: 'M12 4 8.6 6', 'stroke-dasharray': '1.5 2' }],
    ['circle', { cx: 4, cy: 15.5, r: 1.7, fill: 'currentColor' }],
    ['circle', { cx: 12, cy: 4, r: 1.7, fill: 'currentColor' }],
  ],
  rectangle: [
    ['path', { d: 'M12 5.2 20.5 10 12 14.9 3.5 10z' }],
    ['path', { d: 'M3.5 14.5 12 19.3l8.5-4.8', 'stroke-dasharray': '1.5 2.2' }],
  ],
  projection: [
    ['path', { d: 'M3 8h18' }],
    ['path', { d: 'M12 19 3 8M12 19l9-11' }],
    ['path', { d: 'M12 19v-7' }],
  ],
  grid: [
    ['path', { d: 'M12 4 21 9.2 12 14.4 3 9.2z' }],
    ['path', { d: 'M7.5 6.6l9 5.2M16.5 6.6l-9 5.2' }],
    ['path', { d: 'M3 14.4l9 5.2 9-5.2' }],
  ],
  sheet: [
    ['path', { d: 'M6 3.500h12v17H6z' }],
    ['path', { d: 'M6 7h2M6 10.500h3M6 14h2M6 17.500h3' }],
  ],
  trace: [
    ['path', { d: 'M3.500 5h17v14h-17z', 'stroke-dasharray': '2 2' }],
    ['path', { d: 'M7 16 16.500 9' }],
    ['circle', { cx: 7, cy: 16, r: 1.6, fill: 'currentColor' }],
    ['circle', { cx: 16.5, cy: 9, r: 1.6, fill: 'currentColor' }],
  ],
  facts: [
    ['path', { d: 'M5 19 12 4l7 15' }],
    ['path', { d: 'M8 12.500a8 8 0 0 1 8 0' }],
  ],
  line: [
    ['path', { d: 'M4.500 16.500 19.500 7.500' }],
    ['circle', { cx: 4.5, cy: 16.5, r: 1.7, fill: 'currentColor' }],
    ['circle', { cx: 19.5, cy: 7.5, r: 1.7, fill: 'currentColor' }],
  ],
  circle: [
    ['ellipse', { cx: 12, cy: 12, rx: 9, ry: 5.2 }],
    ['circle', { cx: 12, cy: 12, r: 1.3, fill: 'currentColor' }],
  ],
  ellipse: [
    ['path', { d: 'M12 5 21 10.2 12 15.4 3 10.2z', 'stroke-dasharray': '1.5 2.2' }],
    ['ellipse', { cx: 12, cy: 10.2, rx: 6.4, ry: 3.7 }],
  ],
  guide: [
    ['path', { d: 'M3.5 20.500 20.500 3.500', 'stroke-dasharray': '3.4 2.6' }],
    ['circle', { cx: 12, cy: 12, r: 2.4 }],
  ],
  star: [['path', { d: 'M12.00 3.60L14.35 9.36L20.56 9.82L15.80 13.84L17.29 19.88L12.00 16.60L6.71 19.88L8.20 13.84L3.44 9.82L9.65 9.36z' }]],
  spiral: [
    [
      'path',
      {
        d: 'M12.60 12.00C12.88 12.29 12.88 12.99 12.27 13.39C11.65 13.80 10.58 13.72 9.92 12.82C9.26 11.93 9.27 10.44 10.36 9.42C11.45 8.39 13.35 8.18 14.83 9.34C16.31 10.51 16.90 12.77 15.80 14.76C14.71 16.76 12.17 17.87 9.65 16.99C7.13 16.12 5.38 13.44 5.86 10.42C6.34 7.40 9.00 4.92 12.45 4.85C15.90 4.79 19.15 7.24 19.92 11.00C20.68 14.76 18.65 18.79 14.72 20.37',
      },
    ],
  ],
  polygon: [['path', { d: 'M8 5h8l4.500 7-4.500 7H8l-4.500-7z' }]],
  arc: [
    ['path', { d: 'M4 17C5 8 15 4 20 11' }],
    ['circle', { cx: 4, cy: 17, r: 1.7, fill: 'currentColor' }],
    ['circle', { cx: 20, cy: 11, r: 1.7, fill: 'currentColor' }],
  ],
  curve: [
    ['path', { d: 'M3.500 15C6 5 10 5 12 12s6 7 8.500-3' }],
    ['circle', { cx: 12, cy: 12, r: 1.7, fill: 'currentColor' }],
  ],
  freehand: [['path', { d: 'M3.500 16c3-8 5-9 6-6s-2 7 1 7 4-9 6-9 1 5 4 5' }]],
  again: [
    ['path', { d: 'M12 4 20 8.600 12 13.200 4 8.600z', 'stroke-dasharray': '1.5 2.2' }],
    ['path', { d: 'M12 10.500l8 4.600-8 4.600-8-4.600z' }],
  ],
  region: [
    ['path', { d: 'M4 4v16M20 4v16M2.500 7h19M2.500 17h19' }],
    ['path', { d: 'M7 10h10v4H7z', fill: 'currentColor' }],
  ],
  cut: [
    ['path', { d: 'M3 12h5M16 12h5' }],
    ['path', { d: 'M8 5v14M16 5v14' }],
    ['path', { d: 'M10 12h4', 'stroke-dasharray': '1 2' }],
  ],
  extend: [
    ['path', { d: 'M3 12h7' }],
    ['path', { d: 'M10 12h8', 'stroke-dasharray': '1.5 2' }],
    ['path', { d: 'M19 5v14' }],
  ],
  measure: [
    ['path', { d: 'M4 17 17 4l3.500 3.500-13 13z' }],
    ['path', { d: 'm8 13 2 2M11.500 9.500l2 2M15 6l2 2' }],
  ],
  dimension: [
    ['path', { d: 'M4 6v13M20 6v13M4 12.500h16' }],
    ['path', { d: 'm2.500 14 3-3M18.500 14l3-3' }],
  ],
  colour: [
    ['path', { d: 'M12 3.500c4 4.600 5.500 7 5.500 9.500a5.500 5.500 0 0 1-11 0c0-2.500 1.500-4.900 5.500-9.500z' }],
    ['path', { d: 'M12 16.500a3.500 3.500 0 0 0 3.500-3.500' }],
  ],
  screen: [
    ['path', { d: 'M3.500 5h17v11h-17zM9 20h6M12 16v4' }],
    ['path', { d: 'M12 8v5M9.500 10.500h5' }],
  ],
  stance: [
    ['path', { d: 'M3 17 12 6l9 5-9 10z' }],
    ['circle', { cx: 3, cy: 17, r: 1.7, fill: 'currentColor' }],
    ['circle', { cx: 12, cy: 6, r: 1.7, fill: 'currentColor' }],
    ['circle', { cx: 21, cy: 11, r: 1.7, fill: 'currentColor' }],
  ],
  depth: [
    ['path', { d: 'M12 11 20 15.5 12 20 4 15.5z' }],
    ['path', { d: 'M12 15.5V3.5' }],
    ['path', { d: 'M8.5 5.5 12 3.5l3.5 2' }],
  ],
  lettering: [
    ['path', { d: 'M4 10.500 12 6l8 4.500' }],
    ['path', { d: 'M12 6v13M9 20.500l3-1.500 3 1.500' }],
    ['path', { d: 'M4 10.500v2.500M20 10.500v2.500' }],
  ],
  crossing: [
    ['path', { d: 'M3.500 9.500c5-2.500 12-2.500 17 0M3.500 16.500c5-2.500 12-2.500 17 0' }],
    ['path', { d: 'M8 4.500v16M16 4.500v16' }],
    ['circle', { cx: 16, cy: 7.9, r: 2, fill: 'currentColor' }],
  ],
  'photo-outline': [
    ['path', { d: 'M4.500 7 12 4l7.500 4-1.500 8.500-7 3.500-6-5z' }],
    ['path', { d: 'M8 9.500l6-1.500M8.500 13h6.500', 'stroke-dasharray': '1.5 2' }],
    ['circle', { cx: 12, cy: 4, r: 1.7, fill: 'currentColor' }],
  ],
  front: [
    ['path', { d: 'M3.500 7h11v9h-11z' }],
    ['path', { d: 'M11 20.500c0-5 1.500-9.500 5-9.500s5 4.500 5 9.500z', fill: 'var(--paper)' }],
    ['path', { d: 'M9.500 20.500c0-6 2-11 6.500-11', 'stroke-dasharray': '1.5 2' }],
  ],
  panel: [
    ['path', { d: 'M5 6.500 18 4l1.500 14.500L6.500 17z' }],
    ['path', { d: 'M2.500 7h6M2.500 17l7-.5M15 4.600l5.500-1.100', 'stroke-dasharray': '1.5 2' }],
    ['circle', { cx: 5, cy: 6.5, r: 1.7, fill: 'currentColor' }],
  ],
  round: [
    ['path', { d: 'M5.500 5.500 7 18M18.500 5.500 17 18' }],
    ['path', { d: 'M5.500 5.500c3.500 3 9.500 3 13 0M7 18c2.500 2.400 7.500 2.400 10 0' }],
    ['circle', { cx: 12, cy: 7.7, r: 1.5, fill: 'currentColor' }],
    ['circle', { cx: 12, cy: 19.8, r: 1.5, fill: 'currentColor' }],
  ],
  'shadow-end': [
    ['path', { d: 'M6 4v10' }],
    ['path', { d: 'M6 14l12 5', 'stroke-dasharray': '2 2' }],
    ['path', { d: 'M6 4l12 15', 'stroke-dasharray': '1 2.5' }],
    ['circle', { cx: 18, cy: 19, r: 1.7, fill: 'currentColor' }],
  ],
  lamp: [
    ['path', { d: 'M12 3v4M7 12.500 9 7h6l2 5.500z' }],
    ['path', { d: 'M8.500 16 6 20.500M15.500 16l2.500 4.500M12 16.500v4', 'stroke-dasharray': '2 2' }],
  ],
  'set-down': [
    ['path', { d: 'M12 3.500v7M9.500 8.500l2.500 2.500 2.500-2.500' }],
    ['path', { d: 'M12 13l8 4-8 4-8-4z' }],
  ],
  opening: [
    ['path', { d: 'M4 6.500 12 3l8 3.500v11L12 21l-8-3.500z' }],
    ['path', { d: 'M8 9.500l8 0v6.500l-8 0z' }],
    ['path', { d: 'M8 9.500l2.500 2h3L16 9.500M10.500 11.500v3.500', 'stroke-dasharray': '1.5 1.5' }],
  ],
  box: [
    ['path', { d: 'M12 4 20 8.6v7.600L12 20.800 4 16.200V8.600z' }],
    ['path', { d: 'M4 8.600l8 4.600 8-4.600M12 13.200v7.600' }],
  ],
  cylinder: [
    ['ellipse', { cx: 12, cy: 7, rx: 7, ry: 3.6 }],
    ['path', { d: 'M5 7v10c0 2 3.100 3.600 7 3.600s7-1.600 7-3.600V7' }],
  ],
  prism: [
    ['path', { d: 'M8 4.500h8l4.500 3.200-4.500 3.200H8L3.500 7.700z' }],
    ['path', { d: 'M3.500 7.700v8L8 19.500h8l4.500-3.800v-8M8 10.900v8.600M16 10.900v8.600' }],
  ],
  wedge: [
    ['path', { d: 'M3.500 15.500 12 20l8.500-4.800V6L3.500 15.500z' }],
    ['path', { d: 'M12 20V10.700' }],
  ],
  pyramid: [
    ['path', { d: 'M12 3.500 3.500 15 12 20l8.500-5z' }],
    ['path', { d: 'M12 3.500V20' }],
  ],
  cone: [
    ['path', { d: 'M12 3.500 5.200 16M12 3.500 18.800 16' }],
    ['ellipse', { cx: 12, cy: 16.6, rx: 7, ry: 3.4 }],
  ],
  steps: [
    ['path', { d: 'M3.500 14.500v4L12 21l8.500-5V7l-3-1.700' }],
    ['path', { d: 'M3.500 14.500 6.500 13v-3.500l4-2.300V4.500L14 3l6.500 4' }],
    ['path', { d: 'M3.500 14.500 12 17.500V21M12 17.500l3-1.700v-3.600l3.500-2V7.800' }],
  ],
  arch: [
    ['path', { d: 'M3.500 8 12 4l8.500 4v11.500L17 18v-4c0-3.500-2-6-4.500-7' }],
    ['path', { d: 'M3.500 8v11.500L7 18v-4c0-3.600 2.300-6 5-6.600 2.700.600 5 3 5 6.600' }],
  ],
  tube: [
    ['ellipse', { cx: 12, cy: 7.5, rx: 7.5, ry: 4 }],
    ['ellipse', { cx: 12, cy: 7.5, rx: 3.8, ry: 1.9 }],
    ['path', { d: 'M4.500 7.500v8.800c0 2.200 3.400 4 7.500 4s7.500-1.800 7.500-4V7.500' }],
  ],
  frame: [
    ['path', { d: 'M12 5.500 21 10.600v2.600l-9 5.100-9-5.100v-2.600z' }],
    ['path', { d: 'M3 10.600l9 5.100 9-5.100M12 15.700v2.600' }],
    ['path', { d: 'M12 8.200l4.200 2.400L12 13l-4.200-2.400z' }],
  ],
  ball: [
    ['circle', { cx: 12, cy: 12, r: 8 }],
    ['path', { d: 'M4 12c0 2 3.600 3.700 8 3.700s8-1.700 8-3.700' }],
  ],
  dome: [
    ['path', { d: 'M4.500 15.500a7.500 7.500 0 0 1 15 0' }],
    ['ellipse', { cx: 12, cy: 15.5, rx: 7.5, ry: 3.6 }],
  ],
  place: [
    ['path', { d: 'M5 8.2 12 4.2v12L5 20.2z' }],
    ['path', { d: 'M12 8.5 19 12.5v7.3l-7-3.6' }],
    ['path', { d: 'M7 13.5l3-3.2', 'stroke-width': 2.4 }],
  ],
  light: [
    ['path', { d: 'M12 12 20 16.6 12 21.2 4 16.6z' }],
    ['circle', { cx: 8, cy: 6, r: 2.6 }],
    ['path', { d: 'm11.2 8.4 3.2 3.4' }],
  ],
};

export const ICONS = {
  ...own,
  box: Box, check: Check, copy: Copy, export: Download, shown: Eye, hidden: EyeOff, new: FilePlus, open: FolderOpen, group: Group, drawings: Images,
  keys: List, locked: Lock, unlocked: LockOpen, dark: Moon, add: Plus, redo: Redo2, find: Search, bright: Sun, delete: Trash2, undo: Undo2, import: Upload, close: X, 'open-part': ChevronDown, 'folded-part': ChevronRight,
} as const satisfies Readonly<Record<string, IconNode>>; // prettier-ignore

export type IconName =
  | 'pick'
  | 'projection'
  | 'grid'
  | 'sheet'
  | 'trace'
  | 'facts'
  | 'outline'
  | 'rectangle'
  | 'depth'
  | 'place'
  | 'light'
  | Exclude<keyof typeof ICONS, number | symbol>;
