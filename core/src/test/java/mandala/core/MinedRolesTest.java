package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.ResourceType;
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
import mandala.core.model.key.TypeKey;
import mandala.core.rule.Sketch;
import mandala.core.tidy.Tidier;
import mandala.core.tidy.TidyStep;
import org.junit.jupiter.api.Test;

/** Roles and groups in who holds what, and denies that take nothing (section 12). */
class MinedRolesTest {

  /** Sets, principals who are given some of them one by one, and roles that nobody wrote down. */
  private record Hidden(AccessModel model, int size) {

    static Hidden of(long seed) {
      Random random = new Random(seed);
      AccountKey home = new AccountKey("acme");
      Sketch model =
          new Sketch()
              .account("acme")
              .with(new ResourceType(new TypeKey("room"), About.NONE, null));
      List<PermissionSetKey> sets = new ArrayList<>();
      for (int i = 0; i < 16; i++) {
        PermissionKey permission = new PermissionKey("p" + i);
        model.permission("p" + i, "room", List.of(), List.of());
        sets.add(new PermissionSetKey("s" + i));
        model.with(
            new PermissionSet(
                sets.getLast(), About.NONE, null, List.of(permission), List.of(), List.of()));
      }
      model.place("r1", "room", "acme", "account:acme").place("r2", "room", "acme", "account:acme");
      List<List<PermissionSetKey>> roles = new ArrayList<>();
      int size = 16;
      for (int i = 0; i < 4; i++) {
        List<PermissionSetKey> some = new ArrayList<>(sets);
        Collections.shuffle(some, random);
        roles.add(some.subList(0, 3 + random.nextInt(3)));
        size += roles.getLast().size();
      }
      int given = 0;
      for (int who = 0; who < 40; who++) {
        PrincipalKey key = new PrincipalKey("x" + who);
        model.person("x" + who, "acme");
        Clause scope =
            Clause.of(
                random.nextInt(3) > 0
                    ? new Term.InAccount(home)
                    : new Term.Only(new ResourceKey("r1")));
        Set<PermissionSetKey> all = new TreeSet<>(Comparator.comparing(PermissionSetKey::value));
        for (int role : random.ints(1 + random.nextInt(2), 0, 4).distinct().toArray()) {
          all.addAll(roles.get(role));
          size++;
        }
        for (PermissionSetKey set : all) {
          model.with(
              new Assignment(
                  new AssignmentKey("a" + given++),
                  About.NONE,
                  new Subject.OfPrincipal(Principal.Kind.PERSON, key),
                  new Gives.OfSet(set),
                  Assignment.Effect.ALLOW,
                  List.of(scope),
                  List.of(),
                  Window.ALWAYS,
                  Assignment.Mode.STANDING,
                  false));
        }
      }
      return new Hidden(model.catalogue().model(), size);
    }
  }

  /** Mined roles come near those that the models were grown from, in statements saved. */
  @Test
  void findsRolesThatNobodyWroteDown() {
    List<Double> shares = new ArrayList<>();
    for (long seed = 1; seed <= 20; seed++) {
      Hidden hidden = Hidden.of(seed);
      Tidier.Answer answer = Tidier.of(Engine.of(hidden.model()), TidyTest.AT, Tidier.Also.ROLES);
      TidyTest.assertSame(hidden.model(), answer.after(), seed);
      int before = answer.before().total();
      shares.add((double) (before - answer.size().total()) / (before - hidden.size()));
    }
    double mean = shares.stream().mapToDouble(it -> it).average().orElse(0);
    System.out.printf("share of the statements that hidden roles save, recovered: %.2f%n", mean);
    assertThat(mean).isGreaterThan(0.9);
  }

  /** What two are given one by one comes to the group that they are; without mining it stays. */
  @Test
  void gathersWhatAGroupIsGivenOneByOne() {
    AccessModel.Builder model = AccessModel.builder();
    Hidden hidden = Hidden.of(1);
    for (Kind kind : Kind.values()) {
      if (kind != Kind.ASSIGNMENTS) {
        model.addAll(hidden.model().things(kind));
      }
    }
    List<Group.Member> members = new ArrayList<>();
    for (int i = 0; i < 5; i++) {
      PrincipalKey who = new PrincipalKey("x" + i);
      members.add(new Group.Member.OfPrincipal(Principal.Kind.PERSON, who));
      model.add(
          new Assignment(
              new AssignmentKey("b" + i),
              About.NONE,
              new Subject.OfPrincipal(Principal.Kind.PERSON, who),
              new Gives.OfSet(new PermissionSetKey("s1")),
              Assignment.Effect.ALLOW,
              List.of(Clause.of(new Term.Only(new ResourceKey("r2")))),
              List.of(),
              Window.ALWAYS,
              Assignment.Mode.STANDING,
              false));
    }
    GroupKey key = new GroupKey("five");
    model.add(new Group(key, About.NONE, new AccountKey("acme"), false, members, null, List.of()));
    AccessModel built = model.build();
    assertThat(Tidier.of(Engine.of(built), TidyTest.AT, Tidier.Also.NOTHING).steps()).isEmpty();
    Tidier.Answer answer = Tidier.of(Engine.of(built), TidyTest.AT, Tidier.Also.ROLES);
    assertThat(answer.steps()).hasSize(1);
    assertThat(answer.steps().getFirst().why()).isEqualTo(new TidyStep.Why.Group(key, 5, 1));
    assertThat(answer.after().assignments()).hasSize(1);
  }

  /** A deny of what nobody has may go, and says so; one that takes something stays. */
  @Test
  void aDenyThatTakesNothingGoes() {
    AccessModel.Builder model = AccessModel.builder();
    AccessModel hidden = Hidden.of(2).model();
    for (Kind kind : Kind.values()) {
      model.addAll(hidden.things(kind));
    }
    Assignment held = hidden.assignments().getFirst();
    PermissionKey used =
        hidden.permissionSets().stream()
            .filter(it -> held.gives().equals(new Gives.OfSet(it.key())))
            .findFirst()
            .orElseThrow()
            .allow()
            .getFirst();
    PrincipalKey nobody = new PrincipalKey("nobody");
    model.add(
        new Sketch()
            .account("acme")
            .person("nobody", "acme")
            .catalogue()
            .model()
            .principals()
            .getFirst());
    model.add(deny("takes", held.subject(), used));
    model.add(deny("idle", new Subject.OfPrincipal(Principal.Kind.PERSON, nobody), used));
    Tidier.Answer answer = Tidier.of(Engine.of(model.build()), TidyTest.AT, Tidier.Also.NOTHING);
    assertThat(answer.steps())
        .filteredOn(it -> it.why() instanceof TidyStep.Why.TakesNothing)
        .flatExtracting(TidyStep::changes)
        .extracting(it -> it.things().getFirst().key())
        .containsExactly(new AssignmentKey("idle"));
    assertThat(answer.after().assignments())
        .extracting(Assignment::key)
        .contains(new AssignmentKey("takes"));
  }

  private static Assignment deny(String key, Subject subject, PermissionKey permission) {
    return new Assignment(
        new AssignmentKey(key),
        About.NONE,
        subject,
        new Gives.OfPermission(permission),
        Assignment.Effect.DENY,
        List.of(Clause.of(new Term.Everything())),
        List.of(),
        Window.ALWAYS,
        Assignment.Mode.STANDING,
        false);
  }
}
