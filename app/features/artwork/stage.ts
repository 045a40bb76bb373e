import { pickTool } from '../../tools/pick.tool';
import { commandsOf, toolsOf, using, type StageDescriptor } from '../../state/stage';
import { ImportsService } from '../../state/imports.service';
import { MessageStore } from '../../platform/messages.store';
import { DocumentStore } from '../../state/document.store';
import { FlatService } from '../../state/flat.service';
import { ArtworksService } from './artworks.service';
import { PlaceSettings } from './place.settings';
import { placeTool } from './place.tool';
import { ARTWORK_COMMANDS, ARTWORK_SETTINGS, ARTWORK_TOOLS } from './words';

const tools = toolsOf(ARTWORK_TOOLS, {
  pick: using({ tool: pickTool }),
  place: using({ tool: placeTool, settings: PlaceSettings }),
});

const commands = commandsOf(ARTWORK_COMMANDS, {
  'artwork.add': (get) => get(ImportsService).addArtwork(),
  'artwork.start': (get) => get(ArtworksService).start(),
  'artwork.flat': (get) => get(ArtworksService).editFlat(),
  'artwork.there': (get) => {
    if (get(DocumentStore).sheetOf() === null) get(MessageStore).say('info', 'The drawing is worked on already');
    else get(FlatService).work('drawing');
  },
  'artwork.unfold': (get) => get(ArtworksService).unfold(),
  'artwork.lift': (get) => get(ArtworksService).lift(),
  'artwork.put-back': (get) => get(ArtworksService).putBack(),
});

/** Artwork: flat artwork placed on planes and faces. */
export const artworkStage: StageDescriptor = {
  name: 'artwork',
  tools,
  bench: () => import('./artwork-bench.component').then((m) => m.ArtworkBenchComponent),
  commands,
  settings: ARTWORK_SETTINGS,
  guide: 'artwork',
};
