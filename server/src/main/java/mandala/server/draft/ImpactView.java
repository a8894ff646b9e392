package mandala.server.draft;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mandala.core.analysis.Consequences;
import mandala.core.analysis.Finding;
import mandala.core.engine.Difference;
import mandala.core.engine.Impact;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.document.ChangeText;
import mandala.document.FindingText;
import mandala.server.access.DifferingArea;
import mandala.server.access.FigureView;
import mandala.server.access.Sight;
import org.jspecify.annotations.Nullable;

/**
 * What a draft does to everybody.
 *
 * @param state {@code done}, {@code running}, {@code cancelled}, {@code faulty} where there is
 *     none, or {@code hidden} where the viewer may not read all that the draft names
 * @param summary in one sentence
 * @param gaining how many people gain something, {@code losing} lose, {@code unchanged} were looked
 *     at and keep exactly what they have
 * @param rerouted how many rights are kept by another assignment or bridge than before, of {@code
 *     reroutedPeople} people; null where that cannot be told, since types or permissions change
 * @param people those with most first; at most {@link #MOST}, and only whom the viewer may see
 * @param hidden how many more gain or lose
 */
record ImpactView(
    String state,
    int done,
    int of,
    String summary,
    long gained,
    long lost,
    int gaining,
    int losing,
    int unchanged,
    @Nullable Long rerouted,
    int reroutedPeople,
    List<PersonView> people,
    int hidden,
    List<DifferingArea> areas,
    List<RightView> permissions,
    List<FindingView> begin,
    List<FindingView> end,
    List<String> denies) {

  static final int MOST = 200;

  /** What one person gains and loses. */
  record PersonView(
      String key,
      String name,
      @Nullable String title,
      String account,
      long gained,
      long lost,
      long rerouted,
      boolean lockedOut,
      boolean author) {}

  /** What is gained and lost of one permission. */
  record RightView(
      String key, String name, String accessClass, String risk, long gained, long lost) {}

  /**
   * A rule that begins or ceases to be broken.
   *
   * @param kind {@code exclusion}, {@code expectation}, {@code prerequisite} or {@code holders}
   */
  record FindingView(String kind, String key, String name, String said) {}

  static ImpactView waiting(String state, int done, int of) {
    return new ImpactView(
        state, done, of, "", 0, 0, 0, 0, 0, null, 0, List.of(), 0, List.of(), List.of(), List.of(),
        List.of(), List.of());
  }

  static ImpactView of(Consequences found, Judged judged, Sight sight, Key.Principal author) {
    Catalogue before = judged.state().engine().catalogue();
    Catalogue after = judged.catalogue();
    ChangeText text = new ChangeText(before, after);
    List<PersonView> people = new ArrayList<>();
    int gaining = 0;
    int losing = 0;
    for (Impact.Person person : found.impact().people()) {
      gaining += person.gained() > 0 ? 1 : 0;
      losing += person.lost() > 0 ? 1 : 0;
      Principal principal = find(person.principal(), after, before);
      if (principal != null && people.size() < MOST && sight.mayRead(principal)) {
        people.add(
            new PersonView(
                principal.key().value(),
                principal.about().nameOr(principal.key()),
                principal.attributes().get("title"),
                text.name(Kind.ACCOUNTS, principal.account().value()),
                person.gained(),
                person.lost(),
                person.rerouted(),
                found.lockedOut().contains(person.principal()),
                person.principal().equals(author)));
      }
    }
    FindingText words = new FindingText(before, after);
    List<FindingView> begin = found.begin().stream().map(it -> view(words.of(it))).toList();
    List<FindingView> end = found.end().stream().map(it -> view(words.of(it))).toList();
    return new ImpactView(
        "done",
        found.impact().asked(),
        found.impact().asked(),
        summary(found, gaining, losing),
        found.impact().total().gained(),
        found.impact().total().lost(),
        gaining,
        losing,
        found.unchanged(),
        found.impact().rerouted() == Impact.UNTOLD ? null : found.impact().rerouted(),
        (int) found.impact().people().stream().filter(it -> it.rerouted() > 0).count(),
        people,
        found.impact().people().size() - people.size(),
        DifferingArea.of(found.impact().total(), before, after),
        permissions(found, after, before),
        begin,
        end,
        found.denies().stream().map(change -> String.join("; ", text.sentences(change))).toList());
  }

  private static FindingView view(FindingText.Told told) {
    return new FindingView(told.kind(), told.key(), told.name(), told.said());
  }

  private static @Nullable Principal find(Key.Principal key, Catalogue after, Catalogue before) {
    Principal principal = after.principals().get(key);
    return principal == null ? before.principals().get(key) : principal;
  }

  private static String count(long many, String one, String more) {
    return String.format(java.util.Locale.ROOT, "%,d ", many) + (many == 1 ? one : more);
  }

  private static String summary(Consequences found, int gaining, int losing) {
    List<String> said = new ArrayList<>();
    Difference total = found.impact().total();
    long areas = total.areas().stream().filter(it -> it.gained() + it.lost() > 0).count();
    if (gaining > 0) {
      said.add(
          count(gaining, "person gains ", "people gain ")
              + count(total.gained(), "right", "rights"));
    }
    if (losing > 0) {
      said.add(
          count(losing, "person loses ", "people lose ") + count(total.lost(), "right", "rights"));
    }
    if (said.isEmpty()) {
      said.add("Nobody gains or loses a right");
    } else {
      said.set(said.size() - 1, said.getLast() + " in " + count(areas, "area", "areas"));
    }
    if (found.impact().rerouted() > 0) {
      said.add(
          count(found.impact().rerouted(), "right merely changes", "rights merely change")
              + " route");
    }
    if (!found.lockedOut().isEmpty()) {
      said.add(count(found.lockedOut().size(), "person is", "people are") + " left with nothing");
    }
    if (!found.begin().isEmpty()) {
      said.add(count(rules(found.begin()), "rule begins", "rules begin") + " to be broken");
    }
    if (!found.end().isEmpty()) {
      said.add(count(rules(found.end()), "broken rule is", "broken rules are") + " mended");
    }
    return String.join("; ", said).replace("  ", " ") + ".";
  }

  /** How many rules some findings are about: one that many people break counts once. */
  private static long rules(List<Finding> findings) {
    return findings.stream()
        .map(it ->
            switch (it) {
              case Finding.ExclusionBroken(Key.Exclusion key, var _) -> (Object) key;
              case Finding.ExpectationFails(Key.Expectation key, var _) -> key;
              case Finding.PrerequisiteMissing(var _, Key.Role role, Key.Role missing) ->
                  List.of(role, missing);
              case Finding.HolderLimit(Key.Role role, var _, boolean few) -> List.of(role, few);
            })
        .distinct()
        .count();
  }

  private static List<RightView> permissions(
      Consequences found, Catalogue after, Catalogue before) {
    Map<Key.Permission, long[]> sums = new LinkedHashMap<>();
    for (Difference.Line line : found.impact().total().lines()) {
      long[] sum = sums.computeIfAbsent(line.permission(), _ -> new long[2]);
      sum[0] += line.gained();
      sum[1] += line.lost();
    }
    List<RightView> views = new ArrayList<>();
    sums.forEach((key, sum) -> {
      Permission it = after.permissions().get(key);
      it = it == null ? before.permissions().get(key) : it;
      if (it != null) {
        views.add(
            new RightView(
                key.value(),
                it.about().nameOr(key),
                FigureView.word(it.accessClass()),
                FigureView.word(it.risk()),
                sum[0],
                sum[1]));
      }
    });
    views.sort(
        java.util.Comparator.comparingInt(
                (RightView it) -> -Permission.Risk.valueOf(upper(it.risk())).ordinal())
            .thenComparingLong(it -> -it.gained() - it.lost())
            .thenComparing(RightView::key));
    return views;
  }

  private static String upper(String word) {
    return word.toUpperCase(java.util.Locale.ROOT);
  }
}
