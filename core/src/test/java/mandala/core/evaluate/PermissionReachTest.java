package mandala.core.evaluate;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import mandala.core.RandomModels;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** A whole scope, asked about at once, has the verdicts of its places, asked one by one. */
class PermissionReachTest {

  private static final Set<Verdict> MET = EnumSet.noneOf(Verdict.class);

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 400) / 5);
  }

  @AfterAll
  static void eachVerdictWasMet() {
    assertThat(MET).contains(Verdict.ALLOWED, Verdict.BLOCKED, Verdict.DENIED, Verdict.NONE);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void scopesAreToldAsTheirPlacesAre(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    Random random = new Random(seed);
    Instant at = RandomModels.anyTime(random);
    List<Permission> permissions = model.permissions();
    for (Assignment it : model.assignments()) {
      List<Clause> scope = it.scope();
      Set<PermissionKey> some = new HashSet<>();
      for (int n = 0; n < 3; n++) {
        some.add(permissions.get(random.nextInt(permissions.size())).key());
      }
      PermissionReach reach = engine.reach(some);
      PermissionReach.Places places = reach.places(scope);
      for (Principal who : model.principals()) {
        boolean factor = random.nextBoolean();
        Session session = new Session(who.key(), at, factor, null);
        Access access = engine.access(session);
        Set<Verdict> one = EnumSet.noneOf(Verdict.class);
        for (PermissionKey what : some) {
          for (ResourceKey where : covered(engine, scope, what)) {
            one.add(access.verdict(what, where));
          }
        }
        MET.addAll(one);
        boolean allowed = one.contains(Verdict.ALLOWED);
        assertThat(access.allows(reach, places)).as("%s %s", it, who.key()).isEqualTo(allowed);
        assertThat(engine.allowing(some, scope).test(session)).isEqualTo(allowed);
        if (access.refusal().isEmpty()) {
          assertThat(access.verdicts(reach, places)).as("%s %s", it, who.key()).isEqualTo(one);
        }
      }
    }
  }

  private static List<ResourceKey> covered(Engine engine, List<Clause> scope, PermissionKey what) {
    return engine.reach(scope, Set.of(what), null, Integer.MAX_VALUE).first();
  }
}
