package mandala.core.detect;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.excess.Use;
import mandala.core.excess.UseCoverage;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.question.Impact;
import org.jspecify.annotations.Nullable;

/**
 * A small museum without any trouble, into which a test plants some: two owners, a group of keepers
 * who use all that they hold, a hall and a vault.
 */
final class PlantedModel {

  static final Instant NOW = Instant.parse("2026-05-10T12:00:00Z");
  static final int DAYS = 30;

  private final Map<String, Thing> things = new LinkedHashMap<>();
  private final List<UseRecord> records = new ArrayList<>();
  private final List<String> usesAll = new ArrayList<>();
  private UseCoverage coverage = UseCoverage.COMPLETE;
  final List<Inquiry.Move> moves = new ArrayList<>();

  PlantedModel() {
    with(Account.root("trust"));
    with(new ResourceType(new TypeKey("room"), About.NONE, null));
    with(new ResourceType(new TypeKey("object"), About.NONE, null));
    place("hall", "room", null);
    place("coin", "object", "hall");
    place("ring", "object", "hall");
    place("vault", "room", null);
    place("gem", "object", "vault");
    permission("enter", "room", Permission.Risk.LOW, List.of(), List.of());
    permission("view", "object", Permission.Risk.LOW, List.of(), List.of("enter"));
    permission("edit", "object", Permission.Risk.HIGH, List.of("view"), List.of());
    person("ada", null);
    person("ben", "ada");
    person("cy", "ada");
    person("di", "ada");
    set("keeping", "enter", "edit");
    role("keeper", "keeping");
    group("keepers", "cy", "di");
    for (String owner : List.of("ada", "ben")) {
      with(
          assignment(
              "owner-" + owner, person(owner), new Gives.OfRole(Supplied.OWNER), "account:trust"));
    }
    with(assignment("keeping-hall", group("keepers"), ofRole("keeper"), "hall"));
    usesAll("ada", "ben", "cy", "di");
  }

  // ---- things -----------------------------------------------------------------------------------

  /** Adds a thing, or puts it where one of its kind and key was. */
  PlantedModel with(Thing it) {
    String key = it.key() == null ? "#" + things.size() : it.key().value();
    things.put(Kind.of(it) + " " + key, it);
    return this;
  }

  PlantedModel without(Kind kind, String key) {
    things.remove(kind + " " + key);
    return this;
  }

  PlantedModel place(String key, String type, @Nullable String parent) {
    return with(
        new Resource(
            new ResourceKey(key),
            About.NONE,
            new TypeKey(type),
            new AccountKey("trust"),
            parent == null ? null : new ResourceKey(parent),
            null,
            null,
            Map.of(),
            false));
  }

  PlantedModel permission(
      String key, String type, Permission.Risk risk, List<String> implies, List<String> requires) {
    return with(
        new Permission(
            new PermissionKey(key),
            About.NONE,
            null,
            List.of(new TypeKey(type)),
            key.equals("view") ? Permission.AccessClass.VIEW : Permission.AccessClass.CHANGE,
            risk,
            implies.stream().map(PermissionKey::new).toList(),
            requires.stream().map(PermissionKey::new).toList(),
            null));
  }

  PlantedModel person(String key, @Nullable String manager) {
    return with(principal(key, Principal.Kind.PERSON, manager, Principal.Status.ACTIVE, Map.of()));
  }

  static Principal principal(
      String key,
      Principal.Kind kind,
      @Nullable String manager,
      Principal.Status status,
      Map<String, String> attributes) {
    return new Principal(
        new PrincipalKey(key),
        About.NONE,
        kind,
        new AccountKey("trust"),
        null,
        manager == null ? null : new PrincipalKey(manager),
        status,
        Window.ALWAYS,
        kind == Principal.Kind.PERSON,
        attributes,
        null,
        List.of(),
        null,
        null,
        kind == Principal.Kind.SERVICE ? new PrincipalKey("ada") : null);
  }

  PlantedModel set(String key, String... permissions) {
    return with(
        new PermissionSet(
            new PermissionSetKey(key),
            About.NONE,
            null,
            List.of(permissions).stream().map(PermissionKey::new).toList(),
            List.of(),
            List.of()));
  }

  PlantedModel role(String key, String... sets) {
    return role(key, false, sets);
  }

  PlantedModel role(String key, boolean retired, String... sets) {
    return with(
        new Role(
            new RoleKey(key),
            About.NONE,
            null,
            null,
            null,
            retired,
            List.of(sets).stream().map(PermissionSetKey::new).toList(),
            List.of(),
            false,
            List.of(),
            null,
            null,
            List.of()));
  }

  PlantedModel group(String key, String... members) {
    List<Group.Member> all = new ArrayList<>();
    for (String it : members) {
      all.add(
          it.startsWith("group:")
              ? new Group.Member.OfGroup(new GroupKey(it.substring(6)))
              : new Group.Member.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey(it)));
    }
    return with(
        new Group(
            new GroupKey(key),
            About.NONE,
            new AccountKey("trust"),
            false,
            all,
            null,
            List.of(new PrincipalKey("ada"))));
  }

  static Subject person(String key) {
    return new Subject.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey(key));
  }

  static Subject group(String key) {
    return new Subject.OfGroup(new GroupKey(key));
  }

  static Gives ofRole(String key) {
    return new Gives.OfRole(new RoleKey(key));
  }

  static Gives ofPermission(String key) {
    return new Gives.OfPermission(new PermissionKey(key));
  }

  static Assignment assignment(String key, Subject subject, Gives gives, String tree) {
    return assignment(
        key,
        subject,
        gives,
        Assignment.Effect.ALLOW,
        Clause.of(new Term.Tree(new ResourceKey(tree))));
  }

  static Assignment assignment(
      String key, Subject subject, Gives gives, Assignment.Effect effect, Clause scope) {
    return new Assignment(
        new AssignmentKey(key),
        About.NONE,
        subject,
        gives,
        effect,
        List.of(scope),
        List.of(),
        Window.ALWAYS,
        Assignment.Mode.STANDING,
        false);
  }

  // ---- use --------------------------------------------------------------------------------------

  /** These use all that they hold. */
  PlantedModel usesAll(String... people) {
    usesAll.addAll(List.of(people));
    return this;
  }

  /** This one uses no more than is recorded. */
  PlantedModel usesOnlyWhatIsRecorded(String who) {
    usesAll.remove(who);
    return this;
  }

  PlantedModel uses(String who, String permission, String place) {
    return uses(who, permission, place, 10);
  }

  PlantedModel uses(String who, String permission, String place, int days) {
    for (int i = 0; i < days; i++) {
      records.add(
          new UseRecord(
              new PrincipalKey(who),
              new PermissionKey(permission),
              new ResourceKey(place),
              LocalDate.ofInstant(NOW, ZoneOffset.UTC).minusDays(1L + i),
              1,
              null));
    }
    return this;
  }

  /** Only these permissions are observed. */
  PlantedModel observing(String... permissions) {
    Set<PermissionKey> some = new java.util.HashSet<>();
    List.of(permissions).forEach(it -> some.add(new PermissionKey(it)));
    coverage = new UseCoverage(List.of(new UseCoverage.Part(some, null, null)));
    return this;
  }

  PlantedModel observingNothing() {
    coverage = UseCoverage.NOTHING;
    return this;
  }

  // ---- what is found ----------------------------------------------------------------------------

  AccessModel model() {
    AccessModel.Builder builder = AccessModel.builder();
    things.values().forEach(builder::add);
    return builder.build();
  }

  private Inquiry inquiry(Engine engine) {
    Catalogue catalogue = engine.catalogue();
    List<UseRecord> all = new ArrayList<>(records);
    for (String who : usesAll) {
      for (Permission it : catalogue.permissions().values()) {
        for (ResourceKey place : mandala.core.AllPlaces.of(catalogue.model())) {
          PrincipalKey key = new PrincipalKey(who);
          boolean known = catalogue.principals().containsKey(key);
          if (known
              && engine
                  .decide(new mandala.core.question.Question(key, it.key(), place, NOW, true, null))
                  .allowed()) {
            for (int day = 1; day < 9; day++) {
              all.add(
                  new UseRecord(
                      key,
                      it.key(),
                      place,
                      LocalDate.ofInstant(NOW, ZoneOffset.UTC).minusDays(day),
                      1,
                      null));
            }
          }
        }
      }
    }
    UseWindow window = new UseWindow(NOW, DAYS);
    Use use = Use.of(all, window, catalogue, coverage).use();
    return new Inquiry(engine, engine, window, use, moves.iterator(), _ -> List.of());
  }

  List<Detection> found() {
    return found(Engine.of(model()));
  }

  private List<Detection> found(Engine engine) {
    return Detectors.of(inquiry(engine), Impact.Watch.TO_THE_END).found();
  }

  /** {@return what is found once some changes are made} */
  List<Detection> foundAfter(List<Change> changes) {
    Engine engine = Engine.of(model());
    return found(Engine.of(Draft.of(changes).appliedUnchecked(engine.catalogue()).model()));
  }
}
