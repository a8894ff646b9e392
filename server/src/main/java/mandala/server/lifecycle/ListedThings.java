package mandala.server.lifecycle;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;

/**
 * What a cell of a list can name, by key, name or address and without regard to case: as far as its
 * reader may read it.
 */
final class ListedThings {

  private final Map<String, Principal> byAddress = new HashMap<>();
  private final Map<String, List<Thing>> units = new HashMap<>();
  private final Map<String, List<Thing>> groups = new HashMap<>();
  private final Map<String, List<Thing>> people = new HashMap<>();

  /**
   * Looks through a model once.
   *
   * @param home the accounts whose units can be named
   */
  ListedThings(Catalogue in, RequestContext context, Predicate<AccountKey> home) {
    for (Principal it : in.principals().values()) {
      if (it.email() != null) {
        byAddress.put(plain(it.email()), it);
      }
      if (context.readPolicy().mayRead(it)) {
        put(people, it, it.key().value(), it.email());
      }
    }
    for (Unit it : in.units().values()) {
      if (home.test(it.account()) && context.naming().tells(Kind.UNITS, it.key().value())) {
        put(units, it, it.key().value(), null);
      }
    }
    for (Group it : in.groups().values()) {
      if (!it.retired() && context.readPolicy().mayRead(it, in)) {
        put(groups, it, it.key().value(), null);
      }
    }
  }

  private static void put(
      Map<String, List<Thing>> all, Thing it, String key, @Nullable String address) {
    Set<String> names = new HashSet<>();
    names.add(key);
    if (it.about().name() != null) {
      names.add(plain(it.about().name()));
    }
    if (address != null) {
      names.add(plain(address));
    }
    names.forEach(name -> all.computeIfAbsent(name, _ -> new ArrayList<>()).add(it));
  }

  /** {@return a text as it is compared} */
  static String plain(String text) {
    return text.strip().toLowerCase(Locale.ROOT);
  }

  /** {@return whose address it is}, whether or not the reader may read them; null where nobody's */
  @Nullable Principal byAddress(String address) {
    return byAddress.get(plain(address));
  }

  /** {@return the unit that a cell names}, null where it is blank or wrong */
  @Nullable Unit unit(String named, List<String> faults) {
    return (Unit) one(units, named, "unit", "in this account", faults);
  }

  /** {@return the manager that a cell names}, null where it is blank or wrong */
  @Nullable Principal manager(String named, List<String> faults) {
    return (Principal) one(people, named, "manager", "that you can choose", faults);
  }

  /** {@return the group that a cell names}, null where it is blank or wrong */
  @Nullable Group group(String named, List<String> faults) {
    return (Group) one(groups, named, "group", "that you can choose", faults);
  }

  private static @Nullable Thing one(
      Map<String, List<Thing>> all, String named, String what, String where, List<String> faults) {
    if (named.isBlank()) {
      return null;
    }
    List<Thing> found = all.getOrDefault(plain(named), List.of());
    if (found.size() == 1) {
      return found.getFirst();
    }
    faults.add(
        found.isEmpty()
            ? "There is no " + what + " '" + named.strip() + "' " + where + "."
            : "Several are called '" + named.strip() + "': use the key of the " + what + ".");
    return null;
  }

  /** {@return the time between two days}, each {@code 2026-11-28} or blank for no limit */
  static Window window(String first, String after, List<String> faults) {
    Instant from = day(first, faults);
    Instant until = day(after, faults);
    if (from != null && until != null && !from.isBefore(until)) {
      faults.add("The last day is not after the first.");
      return Window.ALWAYS;
    }
    return new Window(from, until);
  }

  private static @Nullable Instant day(String text, List<String> faults) {
    if (text.isEmpty()) {
      return null;
    }
    try {
      return LocalDate.parse(text).atStartOfDay(ZoneOffset.UTC).toInstant();
    } catch (DateTimeParseException _) {
      faults.add("'" + text + "' is no day: write 2026-11-28.");
      return null;
    }
  }
}
