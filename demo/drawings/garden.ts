import { Pen } from "./pen";

/** Numbers 1 to `count`. */
const upTo = (count: number): readonly number[] => Array.from({ length: count }, (_, i) => i + 1);

/** The grounds between the gates: glasshouses along the south, houses along the north. */
export function gardenGrounds(): Pen {
  const pen = new Pen(1400, 860)
    .ground("beds", 40, 40, 1320, 780)
    .line("M700 40V820M40 420H1360M700 640H300M700 640H1200")
    .line("M40 40H1360V820H40Z", "fence")
    .tree([110, 330, 22], [160, 500, 18], [300, 350, 20], [560, 350, 22], [870, 350, 20], [1110, 500, 22], [1290, 360, 18], [600, 500, 16], [1260, 760, 18])
    .ground("water", 760, 455, 170, 90, "Lily pond")
    .ground("paved", 590, 130, 220, 90);
  for (const i of upTo(6)) pen.room(90 + (i - 1) * 95, 690, 80, 100, "", "glass").door(`g-glass-${i}`, 130 + (i - 1) * 95, 690);
  for (const i of upTo(6)) pen.room(740 + (i - 1) * 95, 690, 80, 100, "", "glass").door(`g-glass-${i + 6}`, 780 + (i - 1) * 95, 690);
  pen.room(330, 460, 190, 120, "Palm house", "glass").door("g-palm", 425, 580);
  pen.room(100, 560, 150, 70, "", "glass").door("g-propagation", 250, 595, "upright");
  pen.room(600, 50, 80, 66).room(720, 50, 80, 66).door("g-visitor", 640, 116).door("g-shop", 760, 116);
  pen.room(70, 60, 190, 110, "Laboratories").door("g-lab-main", 165, 170);
  pen.room(290, 60, 130, 110, "Offices").door("g-office-main", 355, 170);
  pen.room(440, 60, 110, 110, "Tower").door("g-lift", 495, 170);
  pen.room(850, 60, 190, 110, "Herbarium").door("g-herb-main", 945, 170).door("g-herb-side", 1040, 115, "upright");
  pen.room(1070, 60, 150, 110, "Lodgings").door("g-lodge-main", 1145, 170);
  pen.room(1250, 60, 90, 70).door("g-pesticide", 1250, 95, "upright");
  for (const i of upTo(3)) pen.room(1000 + (i - 1) * 115, 220, 100, 76).door(`g-workshop-${i}`, 1050 + (i - 1) * 115, 296);
  pen.ground("paved", 1180, 560, 130, 90).door("g-compost", 1180, 605, "upright");
  for (const i of upTo(5)) pen.room(80 + (i - 1) * 82, 220, 74, 60).door(`x-001-0${i}`, 117 + (i - 1) * 82, 280);
  pen.room(715, 770, 70, 50).door("g-gatehouse", 715, 795, "upright").door("g-keys", 768, 786, "none");
  return pen.door("g-north", 700, 40).door("g-south", 640, 820).door("g-turn-in", 590, 820).door("g-turn-out", 545, 820);
}

/** Laboratories on both sides of a passage, the isotope room behind the last. */
export function laboratories(): Pen {
  const pen = new Pen(1200, 620).room(60, 60, 1080, 500, "", "hall").words(560, 310, "Passage").stairs(70, 280, 90, 60);
  for (const i of upTo(6)) pen.room(60 + (i - 1) * 160, 60, 160, 190).door(`g-lab-${i}`, 140 + (i - 1) * 160, 250);
  for (const i of upTo(6)) pen.room(60 + (i - 1) * 160, 370, 160, 190).door(`g-lab-${i + 6}`, 140 + (i - 1) * 160, 370);
  return pen.room(1020, 60, 120, 190).door("g-isotope", 1080, 250).door("g-lab-main", 1140, 310, "upright");
}

/** Offices around a court. */
export function offices(): Pen {
  const pen = new Pen(1000, 640).room(60, 60, 880, 520, "", "hall").ground("beds", 300, 240, 400, 160, "Court");
  for (const i of upTo(4)) pen.room(60 + (i - 1) * 220, 60, 220, 130).door(`g-office-${i}`, 170 + (i - 1) * 220, 190);
  for (const i of upTo(4)) pen.room(60 + (i - 1) * 220, 450, 220, 130).door(`g-office-${i + 4}`, 170 + (i - 1) * 220, 450);
  return pen.door("g-office-main", 60, 320, "upright").stairs(840, 290, 90, 60);
}

export function lodgings(): Pen {
  const pen = new Pen(1000, 520).room(60, 60, 880, 400, "", "hall").words(420, 260, "Common room");
  for (const i of upTo(3)) pen.room(60 + (i - 1) * 293, 60, 293, 120).door(`g-lodge-${i}`, 206 + (i - 1) * 293, 180);
  for (const i of upTo(3)) pen.room(60 + (i - 1) * 293, 340, 293, 120).door(`g-lodge-${i + 3}`, 206 + (i - 1) * 293, 340);
  return pen.door("g-lodge-main", 940, 260, "upright").stairs(70, 232, 90, 56);
}

export function herbarium(): Pen {
  const pen = new Pen(1000, 600).room(60, 60, 880, 480, "", "hall").words(300, 300, "Mounted sheets");
  for (const i of upTo(5)) pen.ground("paved", 120 + (i - 1) * 84, 120, 44, 130).ground("paved", 120 + (i - 1) * 84, 350, 44, 130);
  pen.room(620, 60, 320, 300).words(780, 200, "Type specimens").door("g-herb-types", 620, 210, "upright");
  for (const i of upTo(4)) pen.ground("paved", 660 + (i - 1) * 66, 76, 50, 50).door(`g-cabinet-${i}`, 685 + (i - 1) * 66, 101, "none");
  return pen.door("g-herb-main", 60, 300, "upright").door("g-herb-side", 780, 540);
}

/** The tower has one room a floor, around its lift and stairs; at its foot lies the data room. */
const towerRooms: readonly string[] = ["", "Reading room", "Maps", "Manuscripts", "Seed lists", "Archive"];

export function towerFoot(): Pen {
  return new Pen(760, 620)
    .room(60, 60, 640, 500, "", "hall")
    .words(230, 440, "Foyer")
    .stairs(90, 90, 110, 70)
    .room(320, 60, 120, 120, "")
    .door("g-lift", 380, 180)
    .room(470, 320, 230, 240)
    .words(590, 440, "Servers")
    .door("g-data", 470, 440, "upright");
}

export function towerFloor(floor: number): Pen {
  const pen = new Pen(760, 620).room(60, 60, 640, 500, "", floor % 2 === 0 ? "room" : "hall").words(380, 500, towerRooms[floor] ?? "");
  for (const i of upTo(4)) pen.ground("paved", 110 + (i - 1) * 150, 290, 90, floor === 2 ? 110 : 140 - 12 * floor);
  return pen.stairs(90, 90, 110, 70).room(320, 60, 120, 120).door(`g-floor-${floor}`, 380, 180);
}
