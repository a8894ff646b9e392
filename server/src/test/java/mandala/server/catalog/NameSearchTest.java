package mandala.server.catalog;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** What is offered first while somebody types a part of a name. */
class NameSearchTest {

  private static java.util.List<String> best(String text, String near, String... names) {
    return new NameSearch(text)
        .best(
            Stream.of(names),
            it -> "k-" + it.length(),
            it -> it,
            it -> it.startsWith("Titled") ? "Keeper" : "",
            it -> !it.startsWith("Hidden"),
            it -> it.endsWith(near),
            3);
  }

  @Test
  void exactNamesComeFirstThenBeginningsThenWordsThenTheRest() {
    assertThat(new NameSearch("loan").rank("x", "Loan", "")).isZero();
    assertThat(new NameSearch(" LOAN ").rank("x", "Loans desk", "")).isEqualTo(1);
    assertThat(new NameSearch("loan").rank("x", "Outgoing loan", "")).isEqualTo(2);
    assertThat(new NameSearch("loan").rank("x", "Reloaning", "")).isEqualTo(3);
    assertThat(new NameSearch("loan").rank("x", "Desk", "Loan lead")).isEqualTo(3);
    assertThat(new NameSearch("loan").rank("loan.approve", "Desk", "")).isEqualTo(3);
    assertThat(new NameSearch("loan").rank("x", "Desk", "")).isEqualTo(4);
    assertThat(best("loan", "?", "Reloaning", "Loans desk", "Outgoing loan", "Loan", "Desk"))
        .containsExactly("Loan", "Loans desk", "Outgoing loan");
  }

  @Test
  void ofWhatFitsAlikeTheNearComesFirst() {
    assertThat(best("hall", "here", "Hall A", "Hall B", "Hall here"))
        .first()
        .isEqualTo("Hall here");
    assertThat(best("", "here", "Hall A", "Hall here")).containsExactly("Hall here", "Hall A");
  }

  @Test
  void whatMayNotBeSeenTakesNoPlace() {
    assertThat(best("hall", "?", "Hidden hall", "Hall A", "Hall B", "Hall C"))
        .containsExactly("Hall A", "Hall B", "Hall C");
  }
}
