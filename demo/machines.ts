import {
  archiveDesktop,
  cadBoard,
  counterDesktop,
  ferrySmall,
  gameBoard,
  patternSmall,
  radioDesktop,
  schoolDesktop,
  stackingStation,
} from './desktops.ts';
import { chessLaptop, choirLaptop, cueLaptop, droneLaptop, tideLaptop } from './laptops.ts';

/** Machines of the demo world, all invented. */
export const MACHINES = {
  ...{ archiveDesktop, cadBoard, chessLaptop, choirLaptop, counterDesktop, cueLaptop, droneLaptop },
  ...{
    ferrySmall,
    gameBoard,
    patternSmall,
    radioDesktop,
    schoolDesktop,
    stackingStation,
    tideLaptop,
  },
} as const;
