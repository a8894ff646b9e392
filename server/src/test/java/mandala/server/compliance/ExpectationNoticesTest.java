package mandala.server.compliance;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import mandala.core.compliance.Finding;
import mandala.core.model.Expectation;
import mandala.server.ApiTest;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.JdbcTemplate;

/** Those who can change an expectation are told that it began to fail, and nobody else. */
@ApiTest
class ExpectationNoticesTest {

  @Autowired private ExpectationNotices notices;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;

  @BeforeEach
  void empty() {
    database.update("delete from notice where kind = 'expectation-fails'");
  }

  private List<String> told() {
    return database.query(
        "select distinct person from notice where kind = 'expectation-fails' order by person",
        (row, _) -> row.getString(1));
  }

  @Test
  void whoCanChangeItIsTold() {
    Expectation expectation = model.engine().catalogue().model().expectations().getFirst();
    notices.began(new ComplianceMonitor.ViolationBegan(Finding.idOf(expectation.key())));
    assertThat(told())
        .contains("ilse.varga")
        .doesNotContain("noor.haddad", "vera.lindqvist", "tess.aldergate");
    assertThat(
            database.query(
                "select distinct said from notice where kind = 'expectation-fails'",
                (row, _) -> row.getString(1)))
        .containsExactly(
            "The expectation “"
                + expectation.about().nameOr(expectation.key())
                + "” began to fail.");
  }

  @Test
  void ofOtherRulesNobodyIsTold() {
    notices.began(new ComplianceMonitor.ViolationBegan("exclusion-broken x noor.haddad"));
    assertThat(told()).isEmpty();
  }
}
