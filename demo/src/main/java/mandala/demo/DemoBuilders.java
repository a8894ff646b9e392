package mandala.demo;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Rule;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/** Things of the demo in few words. */
@SuppressWarnings("NullAway") // javac drops Key.@Nullable X from compact constructors' class files
final class DemoBuilders {

  private DemoBuilders() {}

  static Unit unit(String key, String name, String account) {
    return new Unit(new UnitKey(key), About.named(name), new AccountKey(account), null);
  }

  static Principal person(
      String name,
      String account,
      @Nullable String unit,
      @Nullable String manager,
      String title,
      boolean mfa,
      @Nullable Instant lastSeen) {
    String key = Names.key(name);
    return new Principal(
        new PrincipalKey(key),
        About.named(name),
        Principal.Kind.PERSON,
        new AccountKey(account),
        unit == null ? null : new UnitKey(unit),
        manager == null ? null : new PrincipalKey(manager),
        Principal.Status.ACTIVE,
        Window.ALWAYS,
        mfa,
        Map.of("title", title),
        null,
        List.of(),
        key + "@" + (account.equals("dunlow") ? "dunlow" : "larkmoor") + ".example",
        lastSeen,
        null);
  }

  static Principal service(String key, String name, String account, @Nullable String unit) {
    return new Principal(
        new PrincipalKey(key),
        About.named(name),
        Principal.Kind.SERVICE,
        new AccountKey(account),
        unit == null ? null : new UnitKey(unit),
        null,
        Principal.Status.ACTIVE,
        Window.ALWAYS,
        false,
        Map.of(),
        null,
        List.of(),
        null,
        Instant.parse("2026-11-23T05:00:00Z"),
        null);
  }

  /** {@return the same principal in another state, with a note} */
  static Principal in(Principal it, Principal.Status status, String note) {
    return new Principal(
        it.key(),
        new About(it.about().name(), null, note),
        it.kind(),
        it.account(),
        it.unit(),
        it.manager(),
        status,
        it.window(),
        it.mfa(),
        it.attributes(),
        it.pattern(),
        it.reach(),
        it.email(),
        it.lastSeen(),
        null);
  }

  static Group ruled(String key, String name, String account, Rule rule) {
    return new Group(
        new GroupKey(key),
        About.named(name),
        new AccountKey(account),
        false,
        List.of(),
        rule,
        List.of());
  }

  static Group listed(String key, String name, String account, List<Group.Member> members) {
    return new Group(
        new GroupKey(key),
        About.named(name),
        new AccountKey(account),
        false,
        members,
        null,
        List.of());
  }

  static Group.Member member(String person) {
    return new Group.Member.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey(person));
  }

  static Group.Member group(String group) {
    return new Group.Member.OfGroup(new GroupKey(group));
  }

  static Rule titled(String... titles) {
    return new Rule(
        Rule.Match.ALL,
        List.of(
            titles.length == 1
                ? new Rule.Test("title", Rule.Op.IS, List.of(titles))
                : new Rule.Test("title", Rule.Op.IN, List.of(titles))));
  }

  static Resource place(String key, String name, String type, String account, @Nullable String up) {
    return new Resource(
        new ResourceKey(key),
        About.named(name),
        new TypeKey(type),
        new AccountKey(account),
        up == null ? null : new ResourceKey(up),
        null,
        null,
        Map.of(),
        false);
  }

  static Resource with(
      Resource it,
      @Nullable String owner,
      @Nullable String unit,
      Map<String, String> labels,
      boolean sealed) {
    return new Resource(
        it.key(),
        it.about(),
        it.type(),
        it.account(),
        it.parent(),
        owner == null ? null : new PrincipalKey(owner),
        unit == null ? null : new UnitKey(unit),
        labels,
        sealed);
  }

  static Clause tree(String resource) {
    return Clause.of(new Term.Tree(new ResourceKey(resource)));
  }

  static Clause only(String resource) {
    return Clause.of(new Term.Only(new ResourceKey(resource)));
  }

  static Clause account(String account) {
    return Clause.of(new Term.InAccount(new AccountKey(account)));
  }

  static Subject toPerson(String key) {
    return new Subject.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey(key));
  }

  static Subject toGroup(String key) {
    return new Subject.OfGroup(new GroupKey(key));
  }

  static Gives role(String key) {
    return new Gives.OfRole(new RoleKey(key));
  }

  static Assignment grant(String key, Subject subject, Gives gives, Clause... scope) {
    return new Assignment(
        new AssignmentKey(key),
        About.NONE,
        subject,
        gives,
        Assignment.Effect.ALLOW,
        List.of(scope),
        List.of(),
        Window.ALWAYS,
        Assignment.Mode.STANDING,
        false);
  }

  static Assignment throughSeals(Assignment it, String note) {
    return new Assignment(
        it.key(),
        new About(it.about().name(), null, note),
        it.subject(),
        it.gives(),
        it.effect(),
        it.scope(),
        it.viewScope(),
        it.window(),
        it.mode(),
        true);
  }

  static Assignment onDemand(Assignment it) {
    return new Assignment(
        it.key(),
        it.about(),
        it.subject(),
        it.gives(),
        it.effect(),
        it.scope(),
        it.viewScope(),
        it.window(),
        Assignment.Mode.JUST_IN_TIME,
        it.crossesSeals());
  }

  static Assignment denying(
      String key, Subject subject, String permission, String note, Clause... scope) {
    return new Assignment(
        new AssignmentKey(key),
        new About(null, null, note),
        subject,
        new Gives.OfPermission(new PermissionKey(permission)),
        Assignment.Effect.DENY,
        List.of(scope),
        List.of(),
        Window.ALWAYS,
        Assignment.Mode.STANDING,
        false);
  }
}
