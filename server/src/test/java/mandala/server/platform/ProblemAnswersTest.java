package mandala.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import java.util.Objects;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.http.ProblemDetail;
import org.springframework.mock.web.MockHttpServletRequest;

/** What a call gets whose transaction the database ended. */
class ProblemAnswersTest {

  private final ProblemAnswers answers = new ProblemAnswers(_ -> {});

  @ParameterizedTest
  @CsvSource({
    "40P01, 409, a deadlock",
    "40001, 409, a serialization failure",
    "55P03, 409, a lock that was not to be had",
    "57P01, 503, a database that shuts down",
    "23505, 500, a key that is there already"
  })
  void aClashIsToBeTriedAgainAndAFaultIsNot(String state, int status, String what) {
    RuntimeException failed =
        new IllegalStateException("wrapped", new SQLException("for a test", state));
    ProblemDetail answer =
        Objects.requireNonNull(
            answers
                .unexpected(failed, new MockHttpServletRequest("PATCH", "/api/drafts/x"))
                .getBody());
    assertThat(answer.getStatus()).as(what).isEqualTo(status);
    assertThat(answer.getDetail()).doesNotContain("for a test");
  }
}
