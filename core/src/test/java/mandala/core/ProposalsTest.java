package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import mandala.core.change.Change;
import mandala.core.compliance.Proposals;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Expectation;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What is proposed to be kept so is so, by verdicts asked one by one, and is proposed once. */
class ProposalsTest {

  private static final Set<Expectation.Form> SEEN = EnumSet.noneOf(Expectation.Form.class);

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 150));
  }

  @AfterAll
  static void severalFormsWereProposed() {
    assertThat(SEEN)
        .contains(Expectation.Form.ONLY, Expectation.Form.COUNT, Expectation.Form.CANNOT);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatIsProposedHolds(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    Instant at = RandomModels.anyTime(new Random(seed));
    Reference reference = new Reference(model);
    for (var account : model.accounts()) {
      List<Expectation> proposed = Proposals.of(engine, account.key(), at);
      for (Expectation it : proposed) {
        SEEN.add(it.form());
        holds(it, account.key(), engine, reference, at);
      }
      assertThat(proposed.stream().map(Expectation::key)).doesNotHaveDuplicates();
      statedOnce(proposed, account.key(), engine, at);
    }
    assertThat(Proposals.of(engine, new AccountKey("no-such"), at)).isEmpty();
  }

  private static void holds(
      Expectation it, AccountKey account, Engine engine, Reference reference, Instant at) {
    AccessModel model = engine.catalogue().model();
    for (ResourceKey place : AllPlaces.of(model)) {
      if (!AllPlaces.isUnder(engine.catalogue(), place, ResourceKey.of(account))) {
        continue;
      }
      Set<PrincipalKey> can = new HashSet<>();
      for (Principal who : model.principals()) {
        for (PermissionKey what : it.permissions()) {
          Verdict verdict = reference.verdict(new Question(who.key(), what, place, at, true, null));
          if (verdict == Verdict.ALLOWED) {
            can.add(who.key());
          }
          boolean meant =
              it.subjects().stream().anyMatch(each -> engine.hasSubject(who.key(), each, at));
          String said = who.key() + " " + what + " on " + place + " by " + it.key();
          switch (it.form()) {
            case ONLY -> assertThat(verdict == Verdict.ALLOWED && !meant).as(said).isFalse();
            case CAN ->
                assertThat(
                        meant
                            && engine.isActive(who.key(), at)
                            && verdict != Verdict.ALLOWED
                            && verdict != Verdict.NOT_APPLICABLE)
                    .as(said)
                    .isFalse();
            case CANNOT, COUNT -> {
              // of nobody signed in, and of all together
            }
          }
        }
      }
      if (it.form() == Expectation.Form.COUNT) {
        assertThat(can.size()).as("%s on %s", it.key(), place).isLessThanOrEqualTo(it.max());
      }
      if (it.form() == Expectation.Form.CANNOT) {
        assertThat(it.subjects()).containsExactly(Subject.Public.ANONYMOUS);
        for (PermissionKey what : it.permissions()) {
          assertThat(
                  reference.verdict(
                      new Question(PrincipalKey.ANONYMOUS, what, place, at, false, null)))
              .isNotEqualTo(Verdict.ALLOWED);
        }
      }
    }
  }

  /** What was taken up is not proposed again. */
  private static void statedOnce(
      List<Expectation> proposed, AccountKey account, Engine engine, Instant at) {
    if (proposed.isEmpty()) {
      return;
    }
    Expectation first = proposed.getFirst();
    Engine after = engine.after(List.of(new Change.Added(first)));
    assertThat(Proposals.of(after, account, at).stream().map(Expectation::key))
        .doesNotContain(first.key());
    for (Expectation each : proposed) {
      boolean risky =
          each.permissions().stream()
              .map(it -> engine.catalogue().permissions().get(it).risk())
              .allMatch(it -> it.compareTo(Permission.Risk.HIGH) >= 0);
      assertThat(risky || each.form() == Expectation.Form.CAN).as("%s", each.key()).isTrue();
    }
  }
}
