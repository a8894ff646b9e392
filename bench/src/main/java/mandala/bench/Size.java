package mandala.bench;

/** How large a generated model is. A city is what the goals are for. */
public enum Size {
  VILLAGE(1_000, 200, 20, 50, 2_000, 3, 10_000),
  TOWN(5_000, 1_000, 100, 250, 10_000, 8, 50_000),
  CITY(100_000, 20_000, 2_000, 5_000, 200_000, 50, 1_000_000),
  METROPOLIS(1_000_000, 60_000, 4_000, 8_000, 200_000, 80, 2_000_000);

  final int people;
  final int groups;
  final int roles;
  final int sets;
  final int resources;
  final int accounts;
  final int assignments;

  Size(int people, int groups, int roles, int sets, int resources, int accounts, int assignments) {
    this.people = people;
    this.groups = groups;
    this.roles = roles;
    this.sets = sets;
    this.resources = resources;
    this.accounts = accounts;
    this.assignments = assignments;
  }

  /** {@return the word on the command line} */
  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }
}
