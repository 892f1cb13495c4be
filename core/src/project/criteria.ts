import type { CriteriaSet } from './schema/criteria-schema';

/** Criteria that a new project begins with: guidance values that are widely published, to be copied and changed. */
export const DEFAULT_CRITERIA: CriteriaSet[] = [
  {
    id: 'guidance',
    name: 'Published guidance values',
    source:
      'Values that planning guidance on daylight and sunlight widely publishes, with the sun exposure of rooms after EN 17037:2018. Check them against what applies on the site.',
    rules: [
      {
        kind: 'vsc',
        needs: [{ measure: 'vsc', atLeast: 27 }],
        keeps: 0.8,
        losesLessThan: null,
        grades: [],
        words: 'A window has a vertical sky component of at least 27 %, or keeps 0.8 of what it had before.',
      },
      {
        kind: 'probable-sun',
        needs: [
          { measure: 'year', atLeast: 25 },
          { measure: 'winter', atLeast: 5 },
        ],
        keeps: 0.8,
        losesLessThan: 4,
        grades: [],
        words:
          'A window has at least 25 % of the year’s probable sunlight and 5 % in the winter half; or it keeps 0.8 of the year’s and loses less than 4 points.',
      },
      {
        kind: 'sun-on-ground',
        needs: [{ measure: 'enough', atLeast: 50 }],
        keeps: 0.8,
        losesLessThan: null,
        grades: [],
        words:
          'At least half of an area has 2 h of sun on 21 March, or the part that has it is at least 0.8 of what it was.',
      },
      {
        kind: 'room-exposure',
        needs: [{ measure: 'hours', atLeast: 1.5 }],
        keeps: null,
        losesLessThan: null,
        grades: [
          { name: 'Minimum', atLeast: 1.5 },
          { name: 'Medium', atLeast: 3 },
          { name: 'High', atLeast: 4 },
        ],
        words:
          'A room has at least 1.5 h of sun on a day between 1 February and 21 March; 3 h are medium, 4 h high.',
      },
    ],
  },
];
