package mandala.core.rule;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/** A small model, told in a few words for the specification of a rule. */
public final class Sketch {

  private final AccessModel.Builder model = AccessModel.builder();

  public Sketch account(String key) {
    model.add(Account.root(key));
    return this;
  }

  public Sketch account(String key, String parent, boolean sealed) {
    model.add(new Account(new AccountKey(key), About.NONE, new AccountKey(parent), false, sealed));
    return this;
  }

  public Sketch unit(String key, String account) {
    model.add(new Unit(new UnitKey(key), About.NONE, new AccountKey(account), null));
    return this;
  }

  public Sketch unit(String key, String account, String parent) {
    UnitKey above = new UnitKey(parent);
    model.add(new Unit(new UnitKey(key), About.NONE, new AccountKey(account), above));
    return this;
  }

  /** An active person without a unit. */
  public Sketch person(String key, String account) {
    return person(key, account, null, Map.of());
  }

  /** An active person with attributes, name and value in turns. */
  public Sketch person(String key, String account, String unit, String... attributes) {
    Map<String, String> values = new TreeMap<>();
    for (int i = 0; i < attributes.length; i += 2) {
      values.put(attributes[i], attributes[i + 1]);
    }
    return person(key, account, new UnitKey(unit), values);
  }

  private Sketch person(
      String key, String account, @Nullable UnitKey unit, Map<String, String> attributes) {
    model.add(
        person(
            key,
            account,
            unit,
            null,
            Principal.Status.ACTIVE,
            Window.ALWAYS,
            attributes,
            List.of()));
    return this;
  }

  /** Somebody who reports to a manager. */
  public Sketch report(String key, String account, String manager) {
    model.add(
        person(
            key,
            account,
            null,
            new PrincipalKey(manager),
            Principal.Status.ACTIVE,
            Window.ALWAYS,
            Map.of(),
            List.of()));
    return this;
  }

  /** Somebody of a unit who reaches another one. */
  public Sketch reaching(
      String key, String account, String unit, String reached, Principal.Level level) {
    List<Principal.Reach> reach = List.of(new Principal.Reach(new UnitKey(reached), level));
    model.add(
        person(
            key,
            account,
            new UnitKey(unit),
            null,
            Principal.Status.ACTIVE,
            Window.ALWAYS,
            Map.of(),
            reach));
    return this;
  }

  public Sketch person(String key, String account, Principal.Status status, Window window) {
    model.add(person(key, account, null, null, status, window, Map.of(), List.of()));
    return this;
  }

  private static Principal person(
      String key,
      String account,
      @Nullable UnitKey unit,
      @Nullable PrincipalKey manager,
      Principal.Status status,
      Window window,
      Map<String, String> attributes,
      List<Principal.Reach> reach) {
    return new Principal(
        new PrincipalKey(key),
        About.NONE,
        Principal.Kind.PERSON,
        new AccountKey(account),
        unit,
        manager,
        status,
        window,
        false,
        attributes,
        null,
        reach,
        null,
        null,
        null);
  }

  public Sketch suspendedAccount(String key, String parent) {
    model.add(new Account(new AccountKey(key), About.NONE, new AccountKey(parent), true, false));
    return this;
  }

  public Sketch group(String key, String account) {
    AccountKey home = new AccountKey(account);
    model.add(new Group(new GroupKey(key), About.NONE, home, false, List.of(), null, List.of()));
    return this;
  }

  public Sketch role(String key, boolean retired, String... inherits) {
    model.add(
        new Role(
            new RoleKey(key),
            About.NONE,
            null,
            null,
            null,
            retired,
            List.of(),
            Arrays.stream(inherits).map(RoleKey::new).toList(),
            false,
            List.of(),
            null,
            null,
            List.of()));
    return this;
  }

  /** A role given to somebody everywhere. */
  public static Assignment assignment(
      String key, Subject subject, String role, Assignment.Mode mode, Window window) {
    return new Assignment(
        new AssignmentKey(key),
        About.NONE,
        subject,
        new Gives.OfRole(new RoleKey(role)),
        Assignment.Effect.ALLOW,
        List.of(Clause.of(new Term.Everything())),
        List.of(),
        window,
        mode,
        false);
  }

  public static Subject person(String key) {
    return new Subject.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey(key));
  }

  /** A single thing as it is. */
  public Sketch with(Thing thing) {
    model.add(thing);
    return this;
  }

  /** A guest membership without a beginning. */
  public Sketch guest(
      String person, String account, boolean withSubaccounts, @Nullable Instant until) {
    model.add(
        new Guest(
            About.NONE,
            new PrincipalKey(person),
            new AccountKey(account),
            withSubaccounts,
            new Window(null, until),
            null));
    return this;
  }

  /** A place below another; directly below the account where that is empty. */
  public Sketch place(String key, String type, String account, String parent) {
    return place(key, type, account, parent, false);
  }

  public Sketch sealedPlace(String key, String account, String parent) {
    return place(key, "room", account, parent, true);
  }

  /** A place of somebody, in a unit, with a label. */
  public Sketch place(String key, String account, String owner, String unit, String label) {
    model.add(
        new Resource(
            resource(key),
            About.NONE,
            new TypeKey("room"),
            new AccountKey(account),
            null,
            new PrincipalKey(owner),
            new UnitKey(unit),
            Map.of("colour", label),
            false));
    return this;
  }

  private Sketch place(String key, String type, String account, String parent, boolean sealed) {
    model.add(
        new Resource(
            resource(key),
            About.NONE,
            new TypeKey(type),
            new AccountKey(account),
            parent.isEmpty() ? null : resource(parent),
            null,
            null,
            Map.of(),
            sealed));
    return this;
  }

  public Sketch collection(String key, String account, String... members) {
    model.add(
        new ResourceCollection(
            new CollectionKey(key),
            About.NONE,
            new AccountKey(account),
            Arrays.stream(members).map(Sketch::resource).toList()));
    return this;
  }

  public Sketch permission(String key, String type, List<String> implies, List<String> requires) {
    model.add(
        new Permission(
            new PermissionKey(key),
            About.NONE,
            null,
            List.of(new TypeKey(type)),
            Permission.AccessClass.VIEW,
            Permission.Risk.LOW,
            implies.stream().map(PermissionKey::new).toList(),
            requires.stream().map(PermissionKey::new).toList(),
            null));
    return this;
  }

  public Catalogue catalogue() {
    return new Catalogue(model.build());
  }

  public static ResourceKey resource(String key) {
    return new ResourceKey(key);
  }

  public static Clause tree(String key) {
    return Clause.of(new Term.Tree(resource(key)));
  }

  public static Clause only(String key) {
    return Clause.of(new Term.Only(resource(key)));
  }
}
