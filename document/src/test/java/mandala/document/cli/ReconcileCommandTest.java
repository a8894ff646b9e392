package mandala.document.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import mandala.demo.Larkmoor;
import mandala.document.DocumentWriter;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The command {@code reconcile} at a terminal; that discrepancies are right is tested in core. The
 * loans desk of Quillhaven has its own system, in which people have levels.
 */
class ReconcileCommandTest {

  private static final String TERMS =
      """
      kind,theirs,ours,below
      person,n.haddad,noor.haddad,
      entitlement,Reader,desk.open,
      entitlement,Clerk,desk.open,
      entitlement,Clerk,loan.draft,
      place,Quillhaven,q-loans-desk,yes
      """;

  @TempDir private Path folder;

  private record Run(int exit, String out, String err) {}

  private Run run(String terms, String held, Object... more) throws IOException {
    StringWriter out = new StringWriter();
    StringWriter err = new StringWriter();
    Object[] args =
        new Object[] {
          "reconcile",
          folder.resolve("model.json"),
          Files.writeString(folder.resolve("held.csv"), held),
          "--terms",
          Files.writeString(folder.resolve("terms.csv"), terms),
          "--at",
          "2026-11-27T09:00:00Z",
          "--place",
          "place"
        };
    int exit =
        CommandLineTool.run(
            new PrintWriter(out),
            new PrintWriter(err, true),
            java.util.stream.Stream.concat(Arrays.stream(args), Arrays.stream(more))
                .map(Object::toString)
                .toArray(String[]::new));
    return new Run(exit, out.toString(), err.toString());
  }

  @BeforeEach
  void theDemo() throws IOException {
    Files.writeString(folder.resolve("model.json"), DocumentWriter.write(Larkmoor.model()));
  }

  @Test
  void eachKindOfDiscrepancyIsPrinted() throws IOException {
    Run run =
        run(
            TERMS,
            """
            identity,entitlement,place
            n.haddad,Clerk,Quillhaven
            corin.bladen,Reader,Quillhaven
            hanne.sorrel,Reader,Quillhaven
            x.stranger,Reader,Quillhaven
            x.stranger,Clerk,Quillhaven
            n.haddad,Boss,Quillhaven
            """);
    assertThat(run.exit()).as(run.err()).isEqualTo(1);
    assertThat(run.out().lines())
        .anyMatch(it -> it.startsWith("missing    Petra Lowe should hold Open the loans desk on "))
        .anyMatch(it ->
            it.matches(
                "extra      Corin Bladen holds Open the loans desk on .* in the"
                    + " system, and the model doesn't allow it"))
        .contains(
            "unknown    Nobody in the model has the identity 'x.stranger', which holds 2 things",
            "orphaned   Hanne Sorrel is not active and still has the identity 'hanne.sorrel',"
                + " which holds 1 thing",
            "no meaning  entitlement Boss, on 1 line");
  }

  /** The sample of docs/reconcile.md has a case of each kind. */
  @Test
  void theSampleShowsEachKind() throws IOException {
    Path samples = Path.of("../demo/src/main/resources/mandala/demo");
    StringWriter out = new StringWriter();
    int exit =
        CommandLineTool.run(
            new PrintWriter(out),
            new PrintWriter(new StringWriter()),
            "reconcile",
            folder.resolve("model.json").toString(),
            samples.resolve("loans-desk-held.csv").toString(),
            "--terms",
            samples.resolve("loans-desk-terms.csv").toString(),
            "--identity",
            "user",
            "--entitlement",
            "level",
            "--place",
            "site",
            "--at",
            "2026-11-24T09:00:00Z");
    assertThat(exit).isEqualTo(1);
    assertThat(out.toString().lines())
        .anyMatch(it -> it.startsWith("missing    Samir Dalca should hold Approve loans on "))
        .anyMatch(it -> it.startsWith("extra      Corin Bladen holds Open the loans desk on "))
        .anyMatch(it ->
            it.startsWith("different  Gil Moreau holds View loans on Loan 103")
                && it.endsWith(" in the system, too, where the model doesn't allow it"))
        .anyMatch(it -> it.startsWith("unknown    Nobody in the model has the identity"))
        .anyMatch(it -> it.startsWith("orphaned   Hanne Sorrel is not active"))
        .contains("10 discrepancies; 115 agree, of 41 lines");
  }

  @Test
  void aFileThatIsNotThereIsNamed() {
    StringWriter err = new StringWriter();
    int exit =
        CommandLineTool.run(
            new PrintWriter(new StringWriter()),
            new PrintWriter(err, true),
            "reconcile",
            folder.resolve("model.json").toString(),
            folder.resolve("held.csv").toString(),
            "--terms",
            folder.resolve("gone.csv").toString());
    assertThat(exit).isEqualTo(ModelFile.UNUSABLE);
    assertThat(err.toString()).contains("gone.csv").doesNotContain("Exception");
  }

  @Test
  void programsReadItAsJson() throws IOException {
    Run run =
        run(
            TERMS,
            "identity,entitlement,place\nx.stranger,Reader,Quillhaven\n",
            "--format",
            "json");
    JsonNode said = JsonMapper.builder().build().readTree(run.out());
    assertThat(said.get("lines").intValue()).isEqualTo(1);
    assertThat(said.get("discrepancies").toString())
        .contains("\"id\":\"unknown x.stranger\",\"kind\":\"unknown\"");
  }

  @Test
  void faultsAreToldByLineAndNothingIsCompared() throws IOException {
    Run terms =
        run(
            """
            kind,theirs,ours,below
            person,n.haddad,nobody,
            rank,Reader,desk.open,
            place,Quillhaven,q-loans-desk,perhaps
            place,Quillhaven,nowhere,
            entitlement,,desk.open,
            """,
            "identity,entitlement,place\n");
    assertThat(terms.exit()).isEqualTo(1);
    assertThat(terms.err())
        .contains(
            "line 2: ours: there is no person or service 'nobody'",
            "line 3: kind: 'rank' is no kind of term",
            "line 4: below: 'perhaps' is no answer",
            "line 5: ours: there is no place 'nowhere'",
            "line 5: theirs: 'Quillhaven' is given that meaning twice",
            "line 6: theirs: there is nothing",
            "nothing was compared");
    Run held = run(TERMS, "who,entitlement,place\nn.haddad,Reader,Quillhaven\n");
    assertThat(held.err()).contains("line 1: there is no column 'identity'");
    Run empty = run(TERMS, "identity,entitlement,place\n,Reader,Quillhaven\n");
    assertThat(empty.err()).contains("line 2: identity: there is nothing");
  }
}
