export { colourOn, niceTop, type RampName, RAMPS, type Scale, shareOn } from './ramps';
export { resultGeoJson } from './result-geojson';
export { resultGlb } from './result-glb';
export { resultScale } from './result-scale';
export { resultSvg } from './result-svg';
