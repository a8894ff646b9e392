package mandala.document;

import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Kind;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;

/**
 * What assignments, bridges and delegations are called. Most have no name, and their keys say
 * nothing to a reader, so that they are described: “Loans lead on Loans desk, since 4 May 2026”.
 */
final class Described {

  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMM uuuu", Locale.ENGLISH);

  private final Catalogue catalogue;
  private final Naming naming;

  /** Names things as far as the reader may know them. */
  Described(Catalogue catalogue, Naming naming) {
    this.catalogue = catalogue;
    this.naming = naming;
  }

  /** {@return an assignment's name, else what it gives where and since when} */
  String assignment(Assignment it) {
    String name = it.about().name();
    if (name != null) {
      return name;
    }
    return given(it.gives()) + scope(it.scope()) + span(it.window());
  }

  /** {@return a bridge's name, else the group that it takes where} */
  String bridge(Bridge it) {
    String name = it.about().name();
    if (name != null) {
      return name;
    }
    return name(Kind.GROUPS, it.group())
        + " in "
        + name(Kind.ACCOUNTS, it.account())
        + span(it.window());
  }

  /** {@return a delegation's name, else who may act for whom} */
  String delegation(Delegation it) {
    String name = it.about().name();
    return name != null
        ? name
        : name(Kind.PRINCIPALS, it.delegate()) + " for " + name(Kind.PRINCIPALS, it.principal());
  }

  private String given(Gives gives) {
    return switch (gives) {
      case Gives.OfRole(RoleKey key) -> name(Kind.ROLES, key);
      case Gives.OfSet(PermissionSetKey key) -> name(Kind.PERMISSION_SETS, key);
      case Gives.OfPermission(PermissionKey key) -> name(Kind.PERMISSIONS, key);
    };
  }

  private String name(Kind kind, Key key) {
    return new ChangeText(catalogue, catalogue, naming).name(kind, key.value());
  }

  /** {@return the first clause}, and how many there are besides */
  private String scope(List<Clause> scope) {
    if (scope.isEmpty()) {
      return ", nowhere yet";
    }
    int others = scope.size() - 1;
    return " on " + clause(scope.getFirst()) + (others == 0 ? "" : " and " + others + " more");
  }

  private String clause(Clause clause) {
    ChangeText text = new ChangeText(catalogue, catalogue, naming);
    if (clause.terms().size() == 1) {
      switch (clause.terms().getFirst()) {
        case Term.Tree(ResourceKey key) -> {
          return text.place(key);
        }
        case Term.Only(ResourceKey key) -> {
          return text.place(key) + " alone";
        }
        default -> {
          // in the words of routes
        }
      }
    }
    return new RouteText(catalogue, naming).clause(clause);
  }

  /** {@return what tells one assignment of a thing from another}: its name, else when it holds */
  String which(Assignment it) {
    String name = it.about().name();
    String span = span(it.window());
    return name != null ? name : span.isEmpty() ? "" : span.substring(2);
  }

  /** {@return when it is in effect}, after a comma; nothing where it always is */
  private static String span(Window window) {
    String from = window.from() == null ? "" : ", since " + day(window.from());
    return from + (window.until() == null ? "" : ", until " + day(window.until()));
  }

  private static String day(java.time.Instant instant) {
    return DAY.format(LocalDate.ofInstant(instant, ZoneOffset.UTC));
  }
}
