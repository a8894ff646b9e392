package mandala.server.draft;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import mandala.core.RandomModels;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Group;
import mandala.core.model.key.GroupKey;
import mandala.core.question.Session;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.Test;

class ImpactsTest {

  private static final Instant NOW = Instant.parse("2026-05-01T09:00:00Z");

  private static final Duration LONG = Duration.ofHours(1);

  /** A clock that fails a few times. */
  private static final class Broken extends Clock {
    private final AtomicInteger left;

    Broken(int times) {
      left = new AtomicInteger(times);
    }

    @Override
    public ZoneId getZone() {
      return ZoneOffset.UTC;
    }

    @Override
    public Clock withZone(ZoneId zone) {
      return this;
    }

    @Override
    public Instant instant() {
      if (left.getAndDecrement() > 0) {
        throw new IllegalStateException("The clock stands still");
      }
      return NOW;
    }
  }

  private static DraftReview review() {
    AccessModel model = RandomModels.model(5);
    LiveModel.State state = LiveModel.State.of(1, false, Engine.of(model));
    Group group =
        new Group(
            new GroupKey("fresh"),
            About.NONE,
            model.accounts().getFirst().key(),
            false,
            List.of(),
            null,
            List.of());
    Draft draft = Draft.EMPTY.with(new Change.Added(group));
    DraftRow row = new DraftRow("d", "somebody", null, 1, NOW);
    row.put(draft, 1, NOW);
    Session author = new Session(model.principals().getFirst().key(), NOW, true, null);
    return new DraftReview(state, row, author, new SecondApproval(state.engine()), Map.of());
  }

  @Test
  void whatFailedIsTriedAgainAndNotKept() {
    Impacts impacts = new Impacts(new Broken(1), Duration.ZERO, LONG);
    DraftReview review = review();
    Impacts.Work first = impacts.of("d", review);
    await().until(first::hasFailed);
    assertThat(first.await(0)).isNull();
    await().until(() -> impacts.of("d", review).await(1_000) != null);
    assertThat(impacts.of("d", review).hasFailed()).isFalse();
    impacts.stop();
  }

  @Test
  void whatFailsAgainAndAgainIsNotTriedAtEachCall() {
    Impacts impacts = new Impacts(new Broken(1_000), LONG, LONG);
    DraftReview review = review();
    Impacts.Work first = impacts.of("d", review);
    await().until(first::hasFailed);
    assertThat(impacts.of("d", review)).isSameAs(first);
    impacts.stop();
  }

  @Test
  void whatNobodyAskedForIsBegunAnewWhenItIsAskedForAgain() {
    Impacts impacts = new Impacts(new Broken(0), LONG, Duration.ZERO);
    DraftReview review = review();
    Impacts.Work first = impacts.of("d", review);
    await().until(first::isCancelled);
    assertThat(first.await(0)).isNull();
    assertThat(impacts.of("d", review)).isNotSameAs(first);
    impacts.stop();
  }
}
