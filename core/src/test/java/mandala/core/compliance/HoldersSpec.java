package mandala.core.compliance;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Random;
import mandala.core.RandomModels;
import mandala.core.engine.Engine;
import mandala.core.model.Principal;
import mandala.core.model.key.RoleKey;
import org.junit.jupiter.api.Test;

/** Holders found from the roles are those that the limits of holders count one by one. */
class HoldersSpec {

  @Test
  void areWhomTheLimitsCount() {
    int inherited = 0;
    for (int seed = 0; seed < 300; seed++) {
      Engine engine = Engine.of(RandomModels.model(seed));
      Instant at = RandomModels.anyTime(new Random(seed));
      Holders holders = Holders.at(engine, at);
      for (RoleKey role : engine.catalogue().roles().keySet()) {
        List<Principal> counted =
            engine.catalogue().principals().values().stream()
                .filter(it -> engine.isActive(it.key(), at))
                .filter(it -> Findings.held(engine, it.key(), at).contains(role))
                .toList();
        assertThat(holders.of(role))
            .as("seed %d, %s", seed, role)
            .containsExactlyInAnyOrderElementsOf(counted);
        inherited +=
            (int)
                counted.stream()
                    .filter(it -> !engine.rolesHeld(it.key(), at).contains(role))
                    .count();
      }
    }
    assertThat(inherited).as("some hold a role by a senior one").isPositive();
  }
}
