package mandala.demo;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.Month;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.AccessModel;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * Half a year of use in the demo, the same for the same day: who works with what, with weekends,
 * seasons and leave, and people who never touch parts of what they hold.
 */
public final class DemoUse {

  /** Number of days of use. */
  public static final int DAYS = 182;

  private static final long SEED = 20_260_527L;

  /** Who works on weekends too: what opens then. */
  private static final Set<String> WEEKEND = Set.of("shop", "stock", "building", "probe", "visit");

  /** On how many places somebody uses each of Mandala's own permissions. */
  private static final int OWN_PLACES = 12;

  private static final Set<Month> SUMMER = EnumSet.of(Month.JUNE, Month.JULY, Month.AUGUST);

  private final Engine engine;
  private final LocalDate today;
  private final List<UseRecord> records = new ArrayList<>();

  private DemoUse(Engine engine, LocalDate today) {
    this.engine = engine;
    this.today = today;
  }

  /**
   * {@return what was used in the half year before a day}, in order of key
   *
   * @param model the demo's model, dated to that day
   */
  public static List<UseRecord> before(AccessModel model, LocalDate today) {
    DemoUse use = new DemoUse(Engine.of(model), today);
    use.tell();
    return List.copyOf(use.records);
  }

  private void tell() {
    Instant now = today.atTime(8, 0).toInstant(ZoneOffset.UTC);
    ExcessStudy study = engine.excess(engine, Use.NONE, new UseWindow(now, 1));
    for (Principal it : engine.catalogue().principals().values()) {
      Map<PermissionKey, List<ResourceKey>> held = new LinkedHashMap<>();
      for (Excess.Right right : study.rights(it.key())) {
        held.computeIfAbsent(right.permission(), _ -> new ArrayList<>()).add(right.resource());
      }
      person(it, held);
    }
    story("bas.quill", null, 96, 96, it -> it.equals("strongroom.open"), 1);
    story("noor.haddad", "petra.lowe", 20, 2, it -> it.equals("loan.approve"), 2);
  }

  private void person(Principal who, Map<PermissionKey, List<ResourceKey>> held) {
    String key = who.key().value();
    Random random = new Random(SEED + key.hashCode());
    LocalDate leave = today.minusDays(20L + random.nextInt(140));
    int away = 7 + random.nextInt(15);
    int first = DAYS;
    int last = 1;
    Predicate<PermissionKey> used = _ -> true;
    Predicate<ResourceKey> there = _ -> true;
    switch (key) {
      case "label-printer" -> used = it -> it.value().equals("object.label");
      // she works in Quillhaven now, and not in Fernwick any more
      case "odile.farrow" -> there = it -> !isOf(it, "fernwick");
      // the show closed in spring
      case "gil.moreau" -> last = DAYS;
      case "bas.quill" -> used = it -> !it.value().startsWith("strongroom.");
      // her deputy signs for her
      case "petra.lowe" -> used = it -> !it.value().equals("loan.approve");
      default -> {}
    }
    for (Map.Entry<PermissionKey, List<ResourceKey>> entry : held.entrySet()) {
      Permission permission = engine.catalogue().permissions().get(entry.getKey());
      List<ResourceKey> places = entry.getValue().stream().filter(there).toList();
      if (permission != null && !places.isEmpty()) {
        boolean own = permission.key().value().startsWith(Supplied.PREFIX);
        boolean habit = random.nextDouble() < share(permission) || own;
        int count = own ? OWN_PLACES : 1 + random.nextInt(habits(permission));
        double often = List.of(0.3, 0.1, 0.04, 0.015).get(random.nextInt(4));
        for (int i = 0; i < count; i++) {
          ResourceKey place = places.get(random.nextInt(places.size()));
          for (int ago = first; habit && ago > last; ago--) {
            LocalDate day = today.minusDays(ago);
            boolean isAway = !day.isBefore(leave) && day.isBefore(leave.plusDays(away));
            boolean works =
                random.nextDouble() < often * season(permission, day)
                    && (who.kind() == Principal.Kind.SERVICE || !isAway);
            if (works && used.test(permission.key()) && isNotBefore(who, day)) {
              add(who.key(), null, permission.key(), place, day, 1 + random.nextInt(4));
            }
          }
        }
      }
    }
  }

  private boolean isOf(ResourceKey place, String account) {
    return String.valueOf(engine.catalogue().accountOf(place)).equals(account);
  }

  private static boolean isNotBefore(Principal who, LocalDate day) {
    Instant from = who.window().from();
    return from == null || !day.atStartOfDay().toInstant(ZoneOffset.UTC).isBefore(from);
  }

  /** How many of those who hold a permission use it at all. */
  private static double share(Permission permission) {
    return switch (permission.accessClass()) {
      case VIEW -> 0.6;
      case CHANGE -> 0.45;
      case ADMINISTER -> 0.3;
    };
  }

  /** On how many places, at most. */
  private static int habits(Permission permission) {
    return switch (permission.accessClass()) {
      case VIEW -> 8;
      case CHANGE -> 4;
      case ADMINISTER -> 2;
    };
  }

  private static double season(Permission permission, LocalDate day) {
    String area = permission.key().value().split("\\.", 2)[0];
    boolean weekend =
        day.getDayOfWeek() == DayOfWeek.SATURDAY || day.getDayOfWeek() == DayOfWeek.SUNDAY;
    if (weekend && !WEEKEND.contains(area)) {
      return 0;
    }
    boolean summer = SUMMER.contains(day.getMonth());
    return switch (area) {
      case "visit", "shop", "stock" -> summer ? 1.8 : 0.8;
      case "loan", "order" -> summer ? 0.5 : 1.1;
      default -> 1;
    };
  }

  /** Somebody does something that they, or those they act for, hold: on some days, one place. */
  private void story(
      String who,
      @Nullable String actingFor,
      int firstAgo,
      int lastAgo,
      Predicate<String> what,
      int places) {
    PrincipalKey actor = new PrincipalKey(who);
    PrincipalKey whose = actingFor == null ? actor : new PrincipalKey(actingFor);
    if (!engine.catalogue().principals().containsKey(whose)) {
      return;
    }
    Instant now = today.atTime(8, 0).toInstant(ZoneOffset.UTC);
    engine.excess(engine, Use.NONE, new UseWindow(now, 1)).rights(whose).stream()
        .filter(it -> what.test(it.permission().value()))
        .limit(places)
        .forEach(it -> {
          for (int ago = firstAgo; ago >= lastAgo; ago -= 9) {
            add(
                actor,
                actingFor == null ? null : whose,
                it.permission(),
                it.resource(),
                today.minusDays(ago),
                1);
          }
        });
  }

  private void add(
      PrincipalKey who,
      @Nullable PrincipalKey actingFor,
      PermissionKey permission,
      ResourceKey place,
      LocalDate day,
      int count) {
    records.add(new UseRecord(who, permission, place, day, count, actingFor));
  }
}
