import type { Tool } from '../../state/view-store';
import { chooseDevice } from './choose-device';
import { cornersTool } from './corners-tool';
import { dragDevice } from './drag-device';
import { dragOutline } from './drag-outline';
import { dragUnderlay } from './drag-underlay';
import { drawTool } from './draw-tool';
import { fitUnderlay } from './fit-underlay';
import type { BoardTool, Hover, ToolHost } from './host';
import { moveTool } from './move-tool';
import { profileTool } from './profile-tool';
import { pushTool } from './push-tool';
import { plantProbe, readValue } from './read-result';
import { scaleUnderlay } from './scale-underlay';
import { standTool } from './stand-tool';
import { stripTool } from './strip-tool';

/** Every way of using the pointer in a pane but choosing, and what choosing does on results, devices, outlines and pictures. */
export interface OtherTools extends Record<Exclude<Tool['kind'], 'select'>, BoardTool> {
  dragDevice: ReturnType<typeof dragDevice>;
  dragOutline: ReturnType<typeof dragOutline>;
  dragUnderlay: ReturnType<typeof dragUnderlay>;
  chooseDevice(x: number, y: number): boolean;
  plantProbe(x: number, y: number): boolean;
  readValue(x: number, y: number): Hover | null | undefined;
}

export function otherTools(host: ToolHost): OtherTools {
  return {
    move: moveTool(host),
    push: pushTool(host),
    corners: cornersTool(host),
    stand: standTool(host),
    strip: stripTool(host),
    profile: profileTool(host),
    draw: drawTool(host),
    'scale-underlay': scaleUnderlay(host),
    'fit-underlay': fitUnderlay(host),
    dragDevice: dragDevice(host),
    dragOutline: dragOutline(host),
    dragUnderlay: dragUnderlay(host),
    chooseDevice: (x, y) => chooseDevice(host, x, y),
    plantProbe: (x, y) => plantProbe(host, x, y),
    readValue: (x, y) => readValue(host, x, y),
  };
}
