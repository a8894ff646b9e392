package mandala.server.history;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import mandala.server.ApiTest;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import org.apache.commons.codec.digest.DigestUtils;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;

/** A trail that an earlier version wrote is verified by its rule, and goes on by the new one. */
@ApiTest
@DirtiesContext
class OldTrailTest {

  @Autowired private Trail trail;
  @Autowired private JdbcTemplate database;

  @Value("${mandala.keys}")
  private Path keys;

  /** Two lines by the rule of before, written out here as that version hashed them. */
  @BeforeEach
  void anOldTrail() throws Exception {
    try (Stream<Path> files = Files.list(keys)) {
      for (Path file : files.filter(it -> it.toString().contains("trail-heads-")).toList()) {
        Files.delete(file);
      }
    }
    database.update("delete from trail");
    String hash = "";
    for (int seq = 1; seq <= 2; seq++) {
      String at = "2026-05-0" + seq + "T09:00:00Z";
      StringBuilder all = new StringBuilder(hash).append('\n').append(seq).append('\n').append(at);
      String[] parts = {
        "ilse.varga",
        "Ilse Varga",
        null,
        "changed",
        "3",
        "groups",
        "crew",
        "Crew",
        "larkmoor osier",
        "group:crew account:osier",
        "Crew comes",
        null,
        "{}",
        "127.0.0.1"
      };
      for (String part : parts) {
        all.append('\n').append(part == null ? "-" : part.length() + ":" + part);
      }
      hash = DigestUtils.sha256Hex(all.toString().getBytes(StandardCharsets.UTF_8));
      database.update(
          """
          insert into trail (seq, at, who, who_name, act, revision, kind, thing, name, accounts,
            places, said, after, address, hash)
          values (?, ?::timestamptz, 'ilse.varga', 'Ilse Varga', 'changed', 3, 'groups', 'crew',
            'Crew', '{larkmoor,osier}', '{group:crew,account:osier}', 'Crew comes', '{}',
            '127.0.0.1', ?)
          """,
          seq,
          at,
          hash);
    }
    database.update("update trail_head set seq = 2, hash = ?", hash);
  }

  private String fault() {
    return trail.verify().fault().orElse("");
  }

  @Test
  void isSoundByItsOwnRuleAndGoesOnByTheNewOne() {
    assertThat(fault()).isEmpty();
    trail.writeAlone(
        AuditEvent.of(AuditEvent.Act.CHECKED, null, "Mandala", List.of(), "Something", null));
    assertThat(fault()).isEmpty();
    assertThat(database.queryForList("select rule from trail order by seq", Integer.class))
        .containsExactly(1, 1, 2);
  }

  @Test
  void isFoundToBeAlteredAlsoWhereTheOldRuleReadTwoListsAlike() {
    database.update("update trail set accounts = '{\"larkmoor osier\"}' where seq = 1");
    assertThat(fault()).contains("Line 1 is not as any version writes it");
    database.update("update trail set accounts = '{larkmoor,osier}' where seq = 1");
    database.update("update trail set said = 'Crew goes' where seq = 2");
    assertThat(fault()).contains("Line 2 is not as it was written");
  }

  @Test
  void isNotContinuedByTheOldRuleAfterTheNewOne() {
    trail.writeAlone(
        AuditEvent.of(AuditEvent.Act.CHECKED, null, "Mandala", List.of(), "Something", null));
    database.update("update trail set rule = 2 where seq = 1");
    assertThat(fault()).isNotEmpty();
  }
}
