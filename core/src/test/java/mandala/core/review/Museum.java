package mandala.core.review;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Rule;
import mandala.core.model.Subject;
import mandala.core.model.Term;
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
import org.jspecify.annotations.Nullable;

/** A small museum: two rooms, two roles, a group with a list and one with a rule. */
class Museum {

  static final Instant AT = Instant.parse("2026-12-01T00:00:00Z");
  static final AccountKey HOME = new AccountKey("museum");
  static final PrincipalKey ADA = new PrincipalKey("ada");
  static final PrincipalKey BAS = new PrincipalKey("bas");
  static final GroupKey KEEPERS = new GroupKey("keepers");
  static final GroupKey PAINTERS = new GroupKey("painters");
  static final Group.Member ADA_LISTED = new Group.Member.OfPrincipal(Principal.Kind.PERSON, ADA);

  final AccessModel.Builder model = AccessModel.builder();

  Museum() {
    model.add(Account.root("museum"));
    model.add(new ResourceType(new TypeKey("room"), About.NONE, null));
    room("vault");
    room("shop");
    permission("enter", Permission.Risk.LOW);
    permission("open", Permission.Risk.CRITICAL);
    set("entering", "enter");
    set("opening", "open", "enter");
    role("visitor", "entering");
    role("keyholder", "opening");
    person(ADA, BAS, Map.of("craft", "paint"));
    person(BAS, null, Map.of());
    model.add(new Group(KEEPERS, About.NONE, HOME, false, List.of(ADA_LISTED), null, List.of(BAS)));
    model.add(
        new Group(
            PAINTERS,
            About.NONE,
            HOME,
            false,
            List.of(),
            new Rule(Rule.Match.ALL, List.of(new Rule.Test("craft", Rule.Op.IS, List.of("paint")))),
            List.of()));
  }

  void room(String key) {
    model.add(
        new Resource(
            new ResourceKey(key),
            About.NONE,
            new TypeKey("room"),
            HOME,
            null,
            key.equals("vault") ? BAS : null,
            null,
            Map.of(),
            false));
  }

  void permission(String key, Permission.Risk risk) {
    model.add(
        new Permission(
            new PermissionKey(key),
            About.NONE,
            null,
            List.of(new TypeKey("room")),
            Permission.AccessClass.CHANGE,
            risk,
            List.of(),
            List.of(),
            null));
  }

  void set(String key, String... allow) {
    model.add(
        new PermissionSet(
            new PermissionSetKey(key),
            About.NONE,
            null,
            Arrays.stream(allow).map(PermissionKey::new).toList(),
            List.of(),
            List.of()));
  }

  void role(String key, String set) {
    model.add(
        new Role(
            new RoleKey(key),
            About.NONE,
            null,
            null,
            null,
            false,
            List.of(new PermissionSetKey(set)),
            List.of(),
            false,
            List.of(),
            null,
            null,
            List.of()));
  }

  void person(PrincipalKey key, @Nullable PrincipalKey manager, Map<String, String> attributes) {
    model.add(
        new Principal(
            key,
            About.NONE,
            Principal.Kind.PERSON,
            HOME,
            null,
            manager,
            Principal.Status.ACTIVE,
            Window.ALWAYS,
            false,
            attributes,
            null,
            List.of(),
            null,
            null,
            null));
  }

  static Subject group(GroupKey key) {
    return new Subject.OfGroup(key);
  }

  static Subject person(PrincipalKey key) {
    return new Subject.OfPrincipal(Principal.Kind.PERSON, key);
  }

  Museum gives(String key, Subject to, String role, String place) {
    return gives(key, to, role, place, Assignment.Mode.STANDING);
  }

  Museum gives(String key, Subject to, String role, String place, Assignment.Mode mode) {
    model.add(
        new Assignment(
            new AssignmentKey(key),
            About.NONE,
            to,
            new Gives.OfRole(new RoleKey(role)),
            Assignment.Effect.ALLOW,
            List.of(Clause.of(new Term.Tree(new ResourceKey(place)))),
            List.of(),
            Window.ALWAYS,
            mode,
            false));
    return this;
  }

  Engine engine() {
    return Engine.of(model.build());
  }

  static List<String> ids(List<ReviewItem> items) {
    return items.stream().map(ReviewItem::id).toList();
  }
}
