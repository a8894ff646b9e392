package mandala.server.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import mandala.core.RandomModels;
import mandala.core.model.AccessModel;
import mandala.demo.Larkmoor;
import mandala.server.ApiTest;
import mandala.server.demo.DemoDates;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.transaction.support.TransactionTemplate;

/** The whole model in and out of PostgreSQL's tables. */
@ApiTest
@DirtiesContext
class StorageTest {

  @Autowired private LiveModel model;
  @Autowired private ModelTables tables;
  @Autowired private TransactionTemplate transactions;

  private AccessModel stored() {
    return transactions.execute(_ -> tables.read((_, _) -> {}));
  }

  @ParameterizedTest(name = "seed {0}")
  @ValueSource(longs = {1, 2, 3, 5, 8, 13, 21, 34})
  void whatIsReplacedIsReadBackTheSame(long seed) {
    AccessModel before = model.engine().catalogue().model();
    boolean demo = model.state().demo();
    AccessModel random = RandomModels.model(seed);
    model.replace(random, false, _ -> {});
    assertThat(stored()).isEqualTo(random.sorted());
    model.replace(before, demo, _ -> {});
    assertThat(stored()).isEqualTo(before);
  }

  @Test
  void theDemoIsInTheTables() {
    AccessModel moved = DemoDates.from(Clock.systemUTC()).moved(Larkmoor.model());
    assertThat(stored()).isEqualTo(moved.sorted());
  }

  @Test
  void whatFailsOnTheWayChangesNothing() {
    long revision = model.state().revision();
    AccessModel before = stored();
    assertThat(
            org.assertj.core.api.Assertions.catchThrowable(() ->
                model.replace(
                    RandomModels.model(4),
                    false,
                    _ -> {
                      throw new IllegalArgumentException("on the way");
                    })))
        .hasMessage("on the way");
    assertThat(stored()).isEqualTo(before);
    assertThat(model.state().revision()).isEqualTo(revision);
  }
}
