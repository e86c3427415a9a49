import type { Random } from "./random";

const given =
  "Orla Tobiah Mirte Sefa Ruben Pilar Ilse Anouk Bastian Celeste Dorian Edda Falk Greta Hannes Imke Jorin Katell Leif Maren Nils Oriane Per Quirin Rosalie Sander Thea Ulrik Vesna Wim Xenia Yannick Zora Amalie Bruno Cosima Dag Elin Fabian Gesa Henrik Ines Jette Konrad Linnea Matthis Nora Otto Petra Runa Silvan Tilde Ursin Viola Wanda Yrsa Arvid Bente Casper Dunja".split(
    " ",
  );
const surnameStart =
  "Alder Birken Clover Damson Elder Fennel Gentian Hazel Iris Juniper Kale Larch Maple Nettle Orchid Poplar Quince Rowan Sorrel Thistle Umber Vetch Willow Yarrow Aspen Bracken Cedar Dogwood Fern Gorse Heath Ivy Laurel Mallow Moss Plantain Reed Rush Sage Sedge Teasel Thorn".split(
    " ",
  );
const surnameEnd = "berg dahl feld gaard holm kvist land lund mark quist rode skog stad strand thal vik wald wold worth".split(" ");

/** Names that nobody bears: a given name and a plant with an ending, never the same full name twice. */
export function inventedNames(random: Random): () => string {
  const used = new Set<string>();
  return () => {
    for (let attempt = 0; ; attempt++) {
      const plain = `${random.pick(given)} ${random.pick(surnameStart)}${random.pick(surnameEnd)}`;
      const name = attempt < 20 ? plain : `${plain.replace(" ", ` ${random.pick(given).charAt(0)}. `)}`;
      if (used.has(name) && attempt < 60) continue;
      used.add(name);
      return name;
    }
  };
}
