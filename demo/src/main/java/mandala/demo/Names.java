package mandala.demo;

import java.text.Normalizer;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.Set;

/** Made-up names, each given once. */
final class Names {

  private static final List<String> FIRST =
      List.of(
          "Abel", "Adaeze", "Aino", "Alma", "Amir", "Anouk", "Arlo", "Asta", "Aziz", "Beatrix",
          "Bo", "Carys", "Cato", "Clio", "Dana", "Desta", "Edda", "Eilidh", "Elio", "Emre", "Esme",
          "Farid", "Femke", "Finn", "Freya", "Gita", "Gwen", "Hana", "Hugo", "Ida", "Idris", "Ilka",
          "Imani", "Ivo", "Jana", "Jonas", "Juno", "Kamil", "Keir", "Kofi", "Lena", "Levi", "Lior",
          "Lotte", "Lucia", "Maeve", "Malik", "Marit", "Milo", "Nadia", "Nils", "Noemi", "Ola",
          "Omar", "Orla", "Oskar", "Padma", "Pell", "Perrin", "Quinn", "Rafa", "Rhea", "Rosa",
          "Rune", "Sabine", "Samir", "Selma", "Sifa", "Sol", "Stellan", "Suri", "Tamsin", "Tarik",
          "Thea", "Tilda", "Timo", "Una", "Vesna", "Wim", "Yara", "Yusuf", "Zadie", "Zeno", "Zora");

  private static final List<String> LAST =
      List.of(
          "Abara",
          "Aldous",
          "Amundsen",
          "Ashdown",
          "Baros",
          "Beck",
          "Bellamy",
          "Blackwood",
          "Brandvold",
          "Carrow",
          "Castellan",
          "Chidi",
          "Corran",
          "Dalca",
          "Deverell",
          "Dunmore",
          "Eastley",
          "Ekholm",
          "Ellery",
          "Fairweather",
          "Falk",
          "Fenn",
          "Forde",
          "Garrick",
          "Glass",
          "Greave",
          "Hallam",
          "Harrow",
          "Hask",
          "Holm",
          "Ibarra",
          "Inver",
          "Jessop",
          "Jorvik",
          "Kade",
          "Keswick",
          "Kimura",
          "Lark",
          "Ledger",
          "Linden",
          "Lowell",
          "Macrae",
          "Marsh",
          "Mbeki",
          "Merrin",
          "Mortlake",
          "Nash",
          "Nouri",
          "Oakes",
          "Okoro",
          "Orme",
          "Pascoe",
          "Penrose",
          "Pike",
          "Quarry",
          "Rana",
          "Redfern",
          "Reyes",
          "Rook",
          "Sable",
          "Sandoz",
          "Selby",
          "Shaw",
          "Skerry",
          "Sorensen",
          "Stroud",
          "Tallis",
          "Thorne",
          "Tindall",
          "Tully",
          "Ueda",
          "Vance",
          "Verney",
          "Wade",
          "Westcott",
          "Wick",
          "Wyndham",
          "Yarrow",
          "Yates",
          "Zeller");

  private final Random random;
  private final Set<String> given = new HashSet<>();

  Names(Random random) {
    this.random = random;
  }

  String next() {
    String name;
    do {
      name = FIRST.get(random.nextInt(FIRST.size())) + " " + LAST.get(random.nextInt(LAST.size()));
    } while (!given.add(name));
    return name;
  }

  /** {@return the key of a name}: {@code noor.haddad} */
  static String key(String name) {
    return Normalizer.normalize(name, Normalizer.Form.NFD)
        .replaceAll("\\p{M}", "")
        .toLowerCase(Locale.ROOT)
        .replaceAll("[^a-z0-9]+", ".");
  }
}
