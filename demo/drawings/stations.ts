import { Pen } from "./pen";

/** The island: the station house above the landing, cabins along the shore. */
export function islandStation(): Pen {
  const pen = new Pen(1200, 720)
    .ground("water", 0, 0, 1200, 720)
    .line("M120 600Q60 380 220 220T620 110T1060 220T1090 520T700 640Z")
    .line("M300 520L520 400L760 300L960 420M520 400L560 560", "way")
    .tree([240, 330, 16], [330, 230, 14], [820, 190, 15], [1000, 300, 14], [640, 600, 13]);
  pen.room(430, 250, 330, 190, "", "hall").words(520, 390, "Station house").door("i-house", 520, 440);
  pen.room(430, 250, 130, 90).door("i-mess", 495, 340);
  pen.room(620, 250, 140, 95).door("i-lab-1", 620, 300, "upright");
  pen.room(620, 345, 140, 95).door("i-lab-2", 620, 392, "upright");
  for (const i of [1, 2, 3]) pen.room(850 + (i - 1) * 85, 440 - (i - 1) * 60, 70, 60).door(`i-cabin-${i}`, 885 + (i - 1) * 85, 500 - (i - 1) * 60);
  pen.room(250, 540, 120, 70).door("i-boat", 310, 540);
  pen.room(300, 400, 80, 60).door("i-fuel", 340, 460);
  return pen.ground("paved", 690, 520, 60, 50).door("i-cistern", 720, 520).ground("paved", 860, 210, 36, 36).door("i-mast", 878, 246);
}

/** The vault in the mountain: gate, hall and passage lead to the seeds; so does the plant, which has a door of its own to the outside. */
export function mountainVault(): Pen {
  const pen = new Pen(1300, 620).ground("paved", 0, 0, 1300, 620).words(1090, 592, "Rock");
  pen.ground("beds", 20, 60, 180, 520, "Forecourt").line("M200 40V580", "fence").door("v-gate", 200, 330, "upright");
  pen.room(240, 230, 260, 200, "", "hall").words(370, 400, "Entrance hall").door("v-hall", 240, 330, "upright");
  pen.room(240, 100, 160, 130).door("v-office", 320, 230);
  pen.room(500, 280, 300, 100, "", "hall").words(640, 330, "Passage").door("v-corridor", 500, 330, "upright");
  pen.room(240, 430, 560, 130).words(520, 500, "Cooling plant").door("v-plant", 330, 430).door("v-plant-load", 240, 500, "upright");
  pen.room(800, 180, 450, 380).words(1140, 210, "Seeds");
  for (let i = 0; i < 5; i++) pen.ground("paved", 980 + i * 50, 250, 26, 260);
  return pen.door("v-outer", 800, 330, "upright").door("v-inner", 800, 500, "upright");
}
