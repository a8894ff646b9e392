package mandala.server.history;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import mandala.server.ApiTest;
import mandala.server.audit.Trail;
import mandala.server.model.ModelProof;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.ConnectionCallback;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;

/**
 * Whoever can write the database alters what it tells, and each alteration is found: of the trail's
 * lines, its end, its head, the revisions, their copies and the model itself.
 */
@ApiTest
@DirtiesContext
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class TamperTest {

  private static final List<String> TABLES =
      List.of(
          "trail",
          "trail_head",
          "model_entry",
          "model_copy",
          "model_revision",
          "account",
          "unit",
          "principal",
          "guest",
          "access_group",
          "permission",
          "permission_set",
          "role",
          "resource",
          "collection",
          "assignment",
          "bridge",
          "delegation",
          "exclusion",
          "expectation");

  @Autowired private Trail trail;
  @Autowired private ModelProof model;
  @Autowired private JdbcTemplate database;

  @Value("${mandala.keys}")
  private Path keys;

  /** A line in the middle that changed something, so that much can be altered in it. */
  private static final String LINE =
      "seq = (select min(seq) from trail where act = 'changed' and before is not null"
          + " and cardinality(places) > 1)";

  private static final String LAST = "seq = (select max(seq) from trail)";

  @BeforeAll
  void asItWas() {
    trail.sign();
    for (String table : existing()) {
      database.execute("create table kept_" + table + " as select * from " + table);
    }
    assertThat(fault()).isEmpty();
  }

  private List<String> existing() {
    return TABLES.stream()
        .filter(it ->
            Boolean.TRUE.equals(
                database.queryForObject(
                    "select to_regclass(?) is not null", Boolean.class, "public." + it)))
        .toList();
  }

  @AfterEach
  void backAgain() {
    List<String> tables = existing();
    database.execute(
        (ConnectionCallback<Boolean>)
            connection -> {
              try (Statement statement = connection.createStatement()) {
                // rows that refer to each other are put back in any order
                statement.execute("set session_replication_role = replica");
                for (String table : tables) {
                  statement.execute("delete from " + table);
                  statement.execute("insert into " + table + " select * from kept_" + table);
                }
                statement.execute("set session_replication_role = default");
              }
              return true;
            });
    assertThat(fault()).as("put back").isEmpty();
  }

  private Optional<String> fault() {
    return trail.verify().fault().or(model::fault);
  }

  @ParameterizedTest(name = "{0}")
  @ValueSource(
      strings = {
        "update trail set who = 'somebody.else' where LINE",
        "update trail set who = null where LINE",
        "update trail set who_name = 'Somebody Else' where LINE",
        "update trail set acting_for = 'noor.haddad' where LINE",
        "update trail set acting_for = '' where LINE",
        "update trail set act = 'Changed' where LINE",
        "update trail set act = 'approved' where LINE",
        "update trail set act = 'nothing-known' where LINE",
        "update trail set at = at + interval '1 microsecond' where LINE",
        "update trail set at = at - interval '1 day' where LINE",
        "update trail set revision = null where LINE",
        "update trail set revision = 0 where LAST",
        "update trail set revision = revision + 1 where LINE",
        "update trail set kind = 'roles' where LINE",
        "update trail set thing = thing || 'x' where LINE",
        "update trail set thing = null where LINE",
        "update trail set name = '' where LINE",
        "update trail set accounts = array[array_to_string(accounts, ' ') || ' dunlow'] where LINE",
        "update trail set accounts = '{}' where LINE",
        "update trail set accounts = '{\"\"}' where cardinality(accounts) = 0",
        "update trail set places = array[array_to_string(places, ' ')] where LINE",
        "update trail set places = places[2:] where LINE",
        "update trail set said = said || ' ' where LINE",
        "update trail set before = null where LINE",
        "update trail set before = after, after = before where LINE",
        "update trail set after = '{}' where LINE",
        "update trail set address = '10.0.0.1' where LINE",
        "update trail set rule = 1 where LINE",
        "update trail set hash = reverse(hash) where LINE",
        "update trail set entry_digest = repeat('0', 64) where act = 'revision'",
        "update trail set model_digest = null where act = 'revision' and LASTREVISION",
        "delete from trail where LINE",
        "delete from trail where LAST",
        "update trail set seq = seq + 1000000 where LAST",
        "update trail_head set seq = seq + 1",
        "update trail_head set hash = reverse(hash)",
        "delete from trail_head",
        "delete from trail; update trail_head set seq = 0, hash = ''",
        "update model_entry set title = 'Nothing' where number = 3",
        "update model_entry set author = null where number = 3",
        "update model_entry set author = 'noor.haddad' where number = 3",
        "update model_entry set at = at - interval '1 hour' where number = 3",
        "update model_entry set size = size + 1 where number = 3",
        "update model_entry set takes_back = 2 where number = 3",
        "update model_entry set draft = 'abc' where number = 3",
        "update model_entry set changes = '[]' where number = 3",
        "delete from model_entry where number = 3",
        "insert into model_entry select number + 1000, at, author, title, draft, takes_back, size,"
            + " changes from model_entry where number = 3",
        "update model_copy set document = substr(document, 1, 100)",
        "delete from model_copy",
        "update model_revision set number = number - 1",
        "update principal set status = 'SUSPENDED' where key = 'ilse.varga'",
        "update principal set email = null where key = 'ilse.varga'",
        "update principal set account = 'dunlow' where key = 'noor.haddad'",
        "update assignment set scope = '[{\"everything\": true}]' where key = 'l-owners'",
        "update assignment set gives = 'role:mandala.owner' where key = 'odile-loans-f'",
        "delete from assignment where key = 'odile-loans-f'",
        "update access_group set members = array_append(members, 'person:noor.haddad') where key = 'q-registrars'",
        "update role set requires_mfa = not requires_mfa where key = 'registrar'",
        "update permission set risk = 'LOW' where risk = 'CRITICAL'",
        "update resource set owner = 'noor.haddad' where key = 'q-loan-101'",
        "update resource set sealed = not sealed where key = 'q-loan-101'",
        "update account set sealed = true where key = 'dunlow'",
        "delete from guest where principal = 'odile.farrow'",
      })
  void isFound(String alteration) {
    int altered = 0;
    for (String each : alteration.split("; ")) {
      altered +=
          database.update(
              each.replace(
                      "LASTREVISION", "seq = (select max(seq) from trail where act = 'revision')")
                  .replace("LINE", LINE)
                  .replace("LAST", LAST));
    }
    assertThat(altered).as("rows that were altered").isPositive();
    assertThat(fault()).as(alteration).isPresent();
  }

  /**
   * The end is cut off, and the head set back to what it was then: each line by itself is sound.
   */
  @Test
  void anEndThatIsCutOffWithTheHeadSetBackIsFoundByWhatWasSigned() {
    database.update("delete from trail where seq > (select max(seq) - 5 from trail)");
    database.update(
        "update trail_head set (seq, hash) = (select seq, hash from trail order by seq desc limit 1)");
    assertThat(fault().orElse("")).contains("was signed on", "it was cut");
  }

  /** A signed head of somebody else's key, put beside ours, is not taken for ours. */
  @Test
  void aSignedHeadThatWasForgedIsFound() throws Exception {
    Path file;
    try (Stream<Path> files = Files.list(keys)) {
      file =
          files
              .filter(it -> it.getFileName().toString().startsWith("trail-heads-"))
              .findFirst()
              .orElseThrow();
    }
    String kept = Files.readString(file);
    try {
      Files.writeString(file, kept.replaceFirst("(?m) [^ ]+$", " " + "A".repeat(86) + "=="));
      assertThat(fault().orElse("")).contains("was not signed with this server's key");
    } finally {
      Files.writeString(file, kept);
    }
  }

  @Test
  void theKeysAreReadableByTheServersUserOnly() throws Exception {
    try (Stream<Path> files = Files.list(keys)) {
      assertThat(files.filter(it -> !it.getFileName().toString().startsWith("trail-heads-")))
          .isNotEmpty()
          .allSatisfy(it ->
              assertThat(Files.getPosixFilePermissions(it))
                  .allSatisfy(may -> assertThat(may.name()).startsWith("OWNER")));
    }
  }
}
