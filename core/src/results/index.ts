export { colourOn, niceTop, type RampName, RAMPS, type Scale, shareOn } from './ramps';
export { cellKey, sensorIndex } from './result-cells';
export { resultGeoJson } from './result-geojson';
export { resultGlb } from './result-glb';
export { profileAlong, profileCsv, type ProfileLine, type ProfilePoint } from './result-profile';
export { resultScale } from './result-scale';
export { resultSvg } from './result-svg';
export { type Series, seriesIn, seriesMeans, seriesSvg } from './series-svg';
