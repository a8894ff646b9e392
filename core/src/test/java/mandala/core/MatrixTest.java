package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.LongStream;
import mandala.core.analysis.AccessMatrix;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.rule.RoleContent;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What screens say of resources and roles by themselves is what the engine makes of them. */
class MatrixTest {

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 80));
  }

  private static final AtomicInteger cells = new AtomicInteger();
  private static final AtomicInteger verdicts = new AtomicInteger();

  /** Not every random model has something to compare; together they have. */
  @AfterAll
  static void enoughWasCompared() {
    assertThat(cells.get()).isGreaterThan(1_000);
    assertThat(verdicts.get()).isGreaterThan(1_000);
  }

  /** The model with some assignments only, and nothing else that gives. */
  private static AccessModel only(AccessModel model, List<Assignment> assignments) {
    AccessModel.Builder builder = AccessModel.builder();
    for (Kind kind : Kind.values()) {
      if (kind != Kind.ASSIGNMENTS && kind != Kind.ACTIVATIONS && kind != Kind.BRIDGES) {
        builder.addAll(model.things(kind));
      }
    }
    return builder.addAll(assignments).build();
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void aCellSaysWhatItsSubjectAloneWouldGet(long seed) {
    AccessModel model = RandomModels.model(seed);
    Instant at = RandomModels.anyTime(new Random(seed));
    int asked = 0;
    for (Principal who : model.principals()) {
      Subject subject = new Subject.OfPrincipal(who.kind(), who.key());
      List<Assignment> own =
          model.assignments().stream().filter(it -> it.subject().equals(subject)).toList();
      Engine engine = Engine.of(only(model, own));
      if (own.isEmpty() || !engine.isActive(who.key(), at)) {
        continue;
      }
      for (ResourceKey where : AllPlaces.of(model)) {
        AccessMatrix matrix = AccessMatrix.of(where, engine.catalogue(), at);
        Map<PermissionKey, AccessMatrix.Cell> cells =
            matrix.rows().isEmpty() ? Map.of() : matrix.rows().getFirst().cells();
        for (PermissionKey what : matrix.permissions()) {
          Verdict verdict =
              engine.decide(new Question(who.key(), what, where, at, true, null)).verdict();
          AccessMatrix.Cell cell = cells.get(what);
          String told = seed + " " + who.key() + " " + what + " " + where + " " + cell;
          switch (verdict) {
            case ALLOWED, BLOCKED ->
                assertThat(cell)
                    .as(told)
                    .matches(it -> it != null && (!it.denies() || it.conditional()));
            case DENIED -> assertThat(cell).as(told).matches(it -> it != null && it.denies());
            case NONE -> {
              boolean out =
                  cell == null
                      || cell.conditional()
                      || cell.sealedBy() != null
                      || !reaches(engine, who, where, at);
              assertThat(out).as(told).isTrue();
            }
            default -> throw new AssertionError(verdict + " " + told);
          }
          asked++;
        }
      }
    }
    cells.addAndGet(asked);
  }

  /** Whether somebody belongs to a live account of a resource. */
  private static boolean reaches(Engine engine, Principal who, ResourceKey where, Instant at) {
    AccountKey account = engine.catalogue().accountOf(where);
    return account != null
        && engine.catalogue().isLive(account)
        && (engine.catalogue().isAtOrBelow(account, who.account())
            || engine.hasSubject(who.key(), new Subject.OfAccount(account), at));
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void aRoleAmountsToWhatItGivesWhenGivenEverywhere(long seed) {
    AccessModel model = RandomModels.model(seed);
    Instant at = Instant.parse("2026-06-01T00:00:00Z");
    Principal enrolled =
        Somebody.at(
            model.accounts().stream()
                .filter(it -> it.parent() == null)
                .findFirst()
                .orElseThrow()
                .key(),
            new PrincipalKey("enrolled"),
            true);
    for (Role role : model.roles()) {
      Assignment grant =
          new Assignment(
              new AssignmentKey("everywhere"),
              About.NONE,
              new Subject.OfPrincipal(Principal.Kind.PERSON, enrolled.key()),
              new Gives.OfRole(role.key()),
              Assignment.Effect.ALLOW,
              List.of(Clause.of(new Term.Everything())),
              List.of(),
              Window.ALWAYS,
              Assignment.Mode.STANDING,
              true);
      AccessModel.Builder builder = AccessModel.builder();
      AccessModel reduced = only(model, List.of(grant));
      for (Kind kind : Kind.values()) {
        builder.addAll(reduced.things(kind));
      }
      Engine engine = Engine.of(builder.add(enrolled).build());
      Map<PermissionKey, RoleContent.Line> lines = new HashMap<>();
      RoleContent.of(role.key(), engine.catalogue())
          .lines()
          .forEach(line -> lines.put(line.permission(), line));
      for (ResourceKey where : AllPlaces.of(model)) {
        if (!reaches(engine, enrolled, where, at)) {
          continue;
        }
        for (Permission what : engine.catalogue().permissions().values()) {
          if (!what.on().contains(engine.catalogue().typeOf(where))) {
            continue;
          }
          RoleContent.Line line = lines.get(what.key());
          boolean allowed = line != null && line.allowed();
          for (boolean mfa : new boolean[] {true, false}) {
            Verdict verdict =
                engine
                    .decide(new Question(enrolled.key(), what.key(), where, at, mfa, null))
                    .verdict();
            verdicts.incrementAndGet();
            if (line != null && line.denied()) {
              assertThat(verdict).isEqualTo(Verdict.DENIED);
            } else if (allowed && (mfa || !line.needsFactor())) {
              assertThat(verdict).isIn(Verdict.ALLOWED, Verdict.BLOCKED);
            } else {
              assertThat(verdict).isEqualTo(Verdict.NONE);
            }
          }
        }
      }
    }
  }
}
