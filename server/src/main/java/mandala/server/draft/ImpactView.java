package mandala.server.draft;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mandala.core.analysis.Consequences;
import mandala.core.compliance.Finding;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.Difference;
import mandala.core.question.Impact;
import mandala.document.ChangeText;
import mandala.document.FindingText;
import mandala.server.authorization.RequestContext;
import mandala.server.compliance.SeenFindings;
import mandala.server.question.DifferingArea;
import mandala.server.question.FigureView;
import org.jspecify.annotations.Nullable;

/**
 * What a draft does to everybody.
 *
 * @param state {@code done}, {@code running}, {@code cancelled}, {@code failed} where it is tried
 *     again in a few seconds, {@code faulty} where there is none, or {@code hidden} where the
 *     viewer may not read all that the draft names
 * @param summary in one sentence
 * @param gaining how many people gain something, {@code losing} lose, {@code unchanged} were looked
 *     at and keep exactly what they have
 * @param rerouted how many rights are kept by another assignment or bridge than before, of {@code
 *     reroutedPeople} people; null where that cannot be told, since types or permissions change
 * @param people those with most first; at most {@link #MOST}, and only whom the viewer may see
 * @param more how many more gain or lose
 * @param elsewhere whether people or rules are concerned of which the viewer may not know: no
 *     number here counts them
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
    int more,
    boolean elsewhere,
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
        state, done, of, "", 0, 0, 0, 0, 0, null, 0, List.of(), 0, false, List.of(), List.of(),
        List.of(), List.of(), List.of());
  }

  /**
   * {@return what a draft does, as its viewer may know it}
   *
   * @param found cut to people whose whole access the viewer may ask about
   * @param others whether more people are concerned
   */
  static ImpactView of(
      Consequences found,
      boolean others,
      DraftReview review,
      RequestContext context,
      PrincipalKey author) {
    Catalogue before = review.state().engine().catalogue();
    Catalogue after = review.catalogue();
    ChangeText text = context.text(before, after);
    SeenFindings beginning = SeenFindings.of(found.begin(), context);
    SeenFindings ending = SeenFindings.of(found.end(), context);
    List<PersonView> people = new ArrayList<>();
    int gaining = 0;
    int losing = 0;
    for (Impact.Person person : found.impact().people()) {
      gaining += person.gained() > 0 ? 1 : 0;
      losing += person.lost() > 0 ? 1 : 0;
      Principal principal = find(person.principal(), after, before);
      if (principal != null && people.size() < MOST) {
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
    FindingText words = new FindingText(before, after, context.naming());
    List<FindingView> begin = views(beginning, words);
    List<FindingView> end = views(ending, words);
    return new ImpactView(
        "done",
        found.impact().asked(),
        found.impact().asked(),
        summary(found, beginning, ending, gaining, losing),
        found.impact().total().gained(),
        found.impact().total().lost(),
        gaining,
        losing,
        found.unchanged(),
        found.impact().rerouted() == Impact.UNTOLD ? null : found.impact().rerouted(),
        (int) found.impact().people().stream().filter(it -> it.rerouted() > 0).count(),
        people,
        found.impact().people().size() - people.size(),
        others || beginning.elsewhere() || ending.elsewhere(),
        DifferingArea.of(found.impact().total(), before, after, context.naming()),
        permissions(found, text, after, before),
        begin,
        end,
        found.denies().stream().map(change -> String.join("; ", text.sentences(change))).toList());
  }

  private static List<FindingView> views(SeenFindings seen, FindingText words) {
    return seen.told().stream()
        .map(it -> {
          FindingText.Told told = words.of(it.finding());
          String said = told.said() + (it.elsewhere() ? ", also in accounts you can't see" : "");
          return new FindingView(told.kind(), told.key(), told.name(), said);
        })
        .toList();
  }

  private static @Nullable Principal find(PrincipalKey key, Catalogue after, Catalogue before) {
    Principal principal = after.principals().get(key);
    return principal == null ? before.principals().get(key) : principal;
  }

  /** {@return a number with its word} */
  static String count(long many, String one, String more) {
    return String.format(java.util.Locale.ROOT, "%,d ", many) + (many == 1 ? one : more);
  }

  private static String summary(
      Consequences found, SeenFindings begin, SeenFindings end, int gaining, int losing) {
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
      said.add("No one gains or loses a right");
    } else {
      said.set(said.size() - 1, said.getLast() + " in " + count(areas, "area", "areas"));
    }
    if (found.impact().rerouted() > 0) {
      said.add(
          count(found.impact().rerouted(), "right changes its route", "rights change their route"));
    }
    if (!found.lockedOut().isEmpty()) {
      said.add(count(found.lockedOut().size(), "person loses", "people lose") + " all access");
    }
    if (!begin.told().isEmpty()) {
      said.add(count(rules(begin), "new violation", "new violations"));
    }
    if (!end.told().isEmpty()) {
      said.add(count(rules(end), "violation", "violations") + " resolved");
    }
    return String.join("; ", said).replace("  ", " ") + ".";
  }

  /** How many rules some findings are about: one that many people break counts once. */
  private static long rules(SeenFindings findings) {
    return findings.told().stream()
        .map(SeenFindings.Seen::finding)
        .map(it ->
            switch (it) {
              case Finding.ExclusionBroken(ExclusionKey key, var _) -> (Object) key;
              case Finding.ExpectationFails(ExpectationKey key, var _) -> key;
              case Finding.PrerequisiteMissing(var _, RoleKey role, RoleKey missing) ->
                  List.of(role, missing);
              case Finding.HolderLimit(RoleKey role, var _, boolean few) -> List.of(role, few);
            })
        .distinct()
        .count();
  }

  private static List<RightView> permissions(
      Consequences found, ChangeText text, Catalogue after, Catalogue before) {
    Map<PermissionKey, long[]> sums = new LinkedHashMap<>();
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
                text.name(Kind.PERMISSIONS, key.value()),
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
