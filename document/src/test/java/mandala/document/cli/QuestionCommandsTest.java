package mandala.document.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.core.question.Question;
import mandala.core.question.Session;
import mandala.demo.Larkmoor;
import mandala.document.DocumentWriter;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Each form of question at a terminal says what the engine says, about the demo. */
class QuestionCommandsTest {

  private static final String AT = "2026-11-27T09:00:00Z";
  private static final JsonMapper JSON = JsonMapper.builder().build();

  @TempDir private static Path folder;
  private static Path model;
  private static Engine engine;

  @BeforeAll
  static void theDemoIsWritten() throws IOException {
    engine = Engine.of(Larkmoor.model());
    model = folder.resolve("larkmoor.json");
    Files.writeString(model, DocumentWriter.write(engine.catalogue().model()));
  }

  private record Run(int exit, String out, String err) {

    JsonNode json() {
      return JSON.readTree(out);
    }
  }

  private static Run run(Object... args) {
    StringWriter out = new StringWriter();
    StringWriter err = new StringWriter();
    List<String> words = new ArrayList<>();
    for (Object each : args) {
      words.add(each.toString());
    }
    words.addAll(List.of("--at", AT));
    int exit =
        CommandLineTool.run(
            new PrintWriter(out), new PrintWriter(err, true), words.toArray(String[]::new));
    return new Run(exit, out.toString(), err.toString());
  }

  private static Access access(String who) {
    return engine.access(new Session(new PrincipalKey(who), Instant.parse(AT), true, null));
  }

  @Test
  void accessTellsEachRightOnce() {
    for (PrincipalKey who : engine.catalogue().principals().keySet()) {
      Run run = run("access", model, "--principal", who.value(), "--mfa", "--format", "json");
      assertThat(run.exit()).as(run.err()).isZero();
      long allowed = 0;
      for (JsonNode row : run.json()) {
        allowed +=
            row.get("verdict").stringValue().equals("allowed") ? row.get("on").longValue() : 0;
      }
      assertThat(allowed).as("of %s", who).isEqualTo(access(who.value()).rights());
    }
    assertThat(access("odile.farrow").rights()).isPositive();
    Run text = run("access", model, "--principal", "odile.farrow", "--in", "quillhaven", "--mfa");
    assertThat(text.out()).contains("odile.farrow has").contains("Purchasing");
    assertThat(run("access", model, "--principal", "gil.moreau").out()).contains("has");
  }

  @Test
  void whoCanTellsWhomTheEngineTells() {
    Run run =
        run(
            "who-can",
            model,
            "--permission",
            "loan.approve",
            "--on",
            "q-loan-101",
            "--mfa",
            "--format",
            "json");
    assertThat(run.exit()).as(run.err()).isZero();
    List<String> can = new ArrayList<>();
    run.json()
        .forEach(row -> {
          if (row.get("how").stringValue().equals("can")) {
            can.add(row.get("who").stringValue());
          }
        });
    List<String> expected = new ArrayList<>();
    for (PrincipalKey it : engine.catalogue().principals().keySet()) {
      Question question =
          new Question(
              it,
              new PermissionKey("loan.approve"),
              new ResourceKey("q-loan-101"),
              Instant.parse(AT),
              true,
              null);
      if (engine.decide(question).allowed()) {
        expected.add(it.value());
      }
    }
    assertThat(can).containsExactlyInAnyOrderElementsOf(expected).contains("petra.lowe");
    Run delegates =
        run(
            "who-can",
            model,
            "--permission",
            "loan.approve",
            "--below",
            "account:quillhaven",
            "--mfa");
    assertThat(delegates.out()).contains("can, acting for petra.lowe");
  }

  @Test
  void remediesTellWhatGivesItAndWhatEndsIt() {
    String[] asked = {"--permission", "loan.approve", "--resource", "q-loan-101", "--mfa"};
    Run end =
        run(
            "remedies",
            model,
            "--principal",
            "petra.lowe",
            asked[0],
            asked[1],
            asked[2],
            asked[3],
            asked[4]);
    assertThat(end.exit()).as(end.err()).isZero();
    assertThat(end.out()).startsWith("allowed; what must go for it to end");
    Run give =
        run(
            "remedies",
            model,
            "--principal",
            "noor.haddad",
            asked[0],
            asked[1],
            asked[2],
            asked[3],
            "--format",
            "csv");
    assertThat(give.out().lines().findFirst().orElseThrow())
        .isEqualTo("changes,rights of theirs,rights of others,others");
    assertThat(give.out().lines().count()).isGreaterThan(1);
    Run never =
        run(
            "remedies",
            model,
            "--principal",
            "noor.haddad",
            "--permission",
            "loan.approve",
            "--resource",
            "account:quillhaven");
    assertThat(never.exit()).isEqualTo(2);
    assertThat(never.err()).contains("not-applicable");
  }

  @Test
  void differTellsWhatOnlyOneHas() {
    Run run =
        run(
            "differ",
            model,
            "--one",
            "odile.farrow",
            "--other",
            "colleagues:odile.farrow",
            "--format",
            "json");
    assertThat(run.exit()).as(run.err()).isZero();
    assertThat(run.json().toString()).contains("order.approve", "fernwick");
    Run people = run("differ", model, "--one", "odile.farrow", "--other", "noor.haddad");
    var difference = access("odile.farrow").difference(access("noor.haddad"));
    assertThat(people.out())
        .startsWith(difference.lost() + " rights only odile.farrow; " + difference.gained());
    assertThat(run("differ", model, "--one", "odile.farrow", "--other", "role:registrar").exit())
        .isZero();
    assertThat(
            run(
                    "differ",
                    model,
                    "--one",
                    "role:cataloguer",
                    "--other",
                    "role:records-cataloguer",
                    "--in",
                    "quillhaven")
                .out())
        .startsWith("0 rights only role:cataloguer; 0 only role:records-cataloguer");
  }

  @Test
  void aSecondModelIsTheOtherSide() throws IOException {
    var removed =
        engine.catalogue().assignments().values().stream()
            .filter(it -> it.key().value().equals("petra-signs"))
            .findFirst()
            .orElseThrow();
    Engine after =
        engine.after(Draft.EMPTY.with(new mandala.core.change.Change.Removed(removed)).inOrder());
    Path then = folder.resolve("then.json");
    Files.writeString(then, DocumentWriter.write(after.catalogue().model()));
    Run run =
        run("differ", model, "--one", "petra.lowe", "--other", "petra.lowe", "--other-model", then);
    assertThat(run.out()).contains("loan.approve").doesNotStartWith("0 rights");
  }

  @Test
  void escalationTellsWhoCouldGetIt() {
    Run run = run("escalation", model, "--permission", "loan.approve", "--resource", "o-loan-103");
    assertThat(run.exit()).as(run.err()).isZero();
    assertThat(run.out()).contains("ilse.varga", "marten.holloway").doesNotContain("noor.haddad");
    Run one =
        run(
            "escalation",
            model,
            "--principal",
            "marten.holloway",
            "--permission",
            "loan.approve",
            "--resource",
            "o-loan-103",
            "--changes",
            "1");
    assertThat(one.out()).contains("mandala.people.manage on");
    Run wrong =
        run(
            "escalation",
            model,
            "--permission",
            "loan.approve",
            "--resource",
            "o-loan-103",
            "--changes",
            "9");
    assertThat(wrong.exit()).isEqualTo(2);
    assertThat(wrong.err()).contains("1 to 6");
  }

  @Test
  void whatIsUnknownIsNamedAndNothingIsPrinted() {
    Run who = run("access", model, "--principal", "nobody.here");
    assertThat(who.exit()).isEqualTo(2);
    assertThat(who.err()).contains("There is no principal 'nobody.here'");
    assertThat(who.out()).isEmpty();
    assertThat(run("who-can", model, "--permission", "fly", "--on", "q-loan-101").err())
        .contains("There is no permission 'fly'");
    assertThat(run("who-can", model, "--permission", "loan.approve", "--on", "nowhere").err())
        .contains("There is no place 'nowhere'");
    assertThat(run("who-can", model, "--permission", "loan.approve").exit()).isEqualTo(2);
    assertThat(run("differ", model, "--one", "a:b", "--other", "noor.haddad").err())
        .contains("names nothing to compare with");
    assertThat(run("differ", model, "--one", "role:registrar", "--other", "role:conservator").err())
        .contains("--in");
    assertThat(
            run("access", model, "--principal", "noor.haddad", "--acting-for", "noor.haddad").err())
        .contains("A person can't act for themselves");
  }
}
