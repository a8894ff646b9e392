package mandala.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import mandala.core.model.About;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.RoleKey;
import org.junit.jupiter.api.Test;

/** A bridge gives while it is accepted, in its window, and its source is live (section 5). */
class BridgesSpec {

  private static final Instant MAY = Instant.parse("2026-05-01T00:00:00Z");

  private static final Catalogue MODEL =
      new Sketch()
          .account("trust")
          .account("museum", "trust", false)
          .account("shop", "museum", false)
          .account("gallery", "trust", false)
          .suspendedAccount("mill", "trust")
          .group("lenders", "gallery")
          .group("millers", "mill")
          .catalogue();

  private static Bridge bridge(String group, Bridge.Status status) {
    return new Bridge(
        new BridgeKey("b"),
        About.NONE,
        new AccountKey("museum"),
        new GroupKey(group),
        new Gives.OfRole(new RoleKey("clerk")),
        List.of(Clause.of(new Term.Everything())),
        new Window(null, MAY),
        status);
  }

  private static boolean isInForce(String group, Bridge.Status status, Instant at) {
    return Bridges.isInForce(bridge(group, status), at, MODEL);
  }

  @Test
  void acceptedAndUpToItsEnd() {
    assertThat(isInForce("lenders", Bridge.Status.ACCEPTED, MAY.minusSeconds(1))).isTrue();
    assertThat(isInForce("lenders", Bridge.Status.ACCEPTED, MAY)).isFalse();
  }

  @Test
  void notWhileOfferedNorOnceEnded() {
    assertThat(isInForce("lenders", Bridge.Status.OFFERED, MAY.minusSeconds(1))).isFalse();
    assertThat(isInForce("lenders", Bridge.Status.ENDED, MAY.minusSeconds(1))).isFalse();
  }

  @Test
  void notWhereItsSourceIsSuspended() {
    assertThat(isInForce("millers", Bridge.Status.ACCEPTED, MAY.minusSeconds(1))).isFalse();
  }

  @Test
  void toItsTargetAndAccountsBelow() {
    Bridge it = bridge("lenders", Bridge.Status.ACCEPTED);
    assertThat(Bridges.leadsTo(it, new AccountKey("museum"), MODEL)).isTrue();
    assertThat(Bridges.leadsTo(it, new AccountKey("shop"), MODEL)).isTrue();
    assertThat(Bridges.leadsTo(it, new AccountKey("trust"), MODEL)).isFalse();
  }

  @Test
  void fromTheAccountOfItsGroup() {
    Bridge it = bridge("lenders", Bridge.Status.ACCEPTED);
    assertThat(Bridges.sourceOf(it, MODEL)).isEqualTo(new AccountKey("gallery"));
  }
}
