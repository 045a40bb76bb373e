import { pickTool } from '../../tools/pick.tool';
import { commandsOf, toolsOf, using, type StageDescriptor } from '../../state/stage';
import { cornersTool } from './corners.tool';
import { crossingTool } from './crossing.tool';
import { PhotoFilesService } from './photo-files.service';
import { PhotoDressService } from './photo-dress.service';
import { PhotoHandlesService } from './photo-handles.service';
import { PhotoOutputService } from './photo-output.service';
import { PhotoSettings } from './photo.settings';
import { PhotosService } from './photos.service';
import { PHOTO_COMMANDS, PHOTO_SETTINGS, PHOTO_TOOLS } from './words';

const tools = toolsOf(PHOTO_TOOLS, {
  pick: using({ tool: pickTool }),
  crossing: using({ tool: crossingTool, settings: PhotoSettings }),
  'photo-outline': using({ tool: cornersTool('outline'), settings: PhotoSettings }),
  front: using({ tool: cornersTool('front'), settings: PhotoSettings }),
  panel: using({ tool: cornersTool('panel'), settings: PhotoSettings }),
  round: using({ tool: cornersTool('round'), settings: PhotoSettings }),
});

const commands = commandsOf(PHOTO_COMMANDS, {
  'photo.take': (get) => get(PhotosService).takeFiles(),
  'photo.solve': (get) => get(PhotosService).solve(),
  'photo.light': (get) => get(PhotoDressService).toggleLight(),
  'photo.worst': (get) => get(PhotosService).goToWorst(),
  'photo.compare': (get) => get(PhotosService).compare(),
  'photo.png': (get) => get(PhotoOutputService).picture('png'),
  'photo.jpeg': (get) => get(PhotoOutputService).picture('jpeg'),
  'photo.both': (get) => get(PhotoOutputService).beforeAndAfter(),
  'photo.fit': (get) => get(PhotoOutputService).fit(),
});

/** Photo: artwork on photographed things, fitted by figures. */
export const photoStage: StageDescriptor = {
  name: 'photo',
  tools,
  bench: () => import('./photo-bench.component').then((m) => m.PhotoBenchComponent),
  commands,
  settings: PHOTO_SETTINGS,
  handles: PhotoHandlesService,
  files: (get, files) => get(PhotoFilesService).dropped(files),
  guide: 'photo',
};
