package mandala.document.cli;

import java.io.IOException;
import java.io.InputStream;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import mandala.core.engine.Engine;
import mandala.core.model.check.Fault;
import mandala.core.reconcile.Discrepancy;
import mandala.core.reconcile.HeldLine;
import mandala.core.reconcile.Reconciliation;
import mandala.document.DiscrepancyText;
import mandala.document.HeldReader;
import mandala.document.Naming;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** Compares what another system says its people hold with a model. */
@Command(
    name = "reconcile",
    description = {
      "Compares what another system says its people hold with what a model allows, and prints what"
          + " is missing, extra or different, and who is unknown or not active.",
      "Exit code 0: they agree. 1: they do not, or a document has faults. 2: the call is wrong."
    },
    mixinStandardHelpOptions = true)
final class ReconcileCommand implements Callable<Integer> {

  /** How it is printed. */
  private enum Format {
    text,
    json
  }

  @Parameters(index = "0", paramLabel = "MODEL.json", description = "A mandala-model/1 document.")
  private Path model = Path.of("");

  @Parameters(index = "1", paramLabel = "HELD.csv", description = "What the system holds.")
  private Path held = Path.of("");

  @Option(
      names = "--terms",
      required = true,
      paramLabel = "TERMS.csv",
      description =
          "What its terms mean: columns kind (person, entitlement, place), theirs, ours, below.")
  private Path terms = Path.of("");

  @Option(names = "--at", description = "An instant like 2026-05-01T09:00:00Z (default: now).")
  private @Nullable String at;

  @Option(names = "--identity", description = "Column of HELD.csv (default: ${DEFAULT-VALUE}).")
  private String identity = HeldReader.Columns.PLAIN.identity();

  @Option(names = "--entitlement", description = "Column of HELD.csv (default: ${DEFAULT-VALUE}).")
  private String entitlement = HeldReader.Columns.PLAIN.entitlement();

  @Option(names = "--place", description = "Column of HELD.csv (default: none).")
  private @Nullable String place;

  @Option(
      names = "--format",
      description = "How to print it: ${COMPLETION-CANDIDATES} (default: text).")
  private Format format = Format.text;

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable {
    Engine engine = Engine.of(ModelFile.read(model, spec.commandLine().getErr()));
    HeldReader.Read read = terms(engine);
    requireFaultless(terms, read.faults());
    List<HeldLine> lines = new ArrayList<>();
    requireFaultless(held, held(lines));
    Reconciliation.Answer answer = Reconciliation.of(engine, Instants.of(at), read.terms(), lines);
    print(answer, new DiscrepancyText(engine.catalogue(), Naming.ALL), spec.commandLine().getOut());
    return answer.discrepancies().isEmpty() ? 0 : ModelFile.FOUND;
  }

  private HeldReader.Read terms(Engine engine) throws ModelFile.Unusable {
    try (InputStream in = Files.newInputStream(terms)) {
      return HeldReader.terms(in, engine.catalogue());
    } catch (IOException _) {
      throw ModelFile.unreadable(terms);
    }
  }

  private List<Fault> held(List<HeldLine> lines) throws ModelFile.Unusable {
    HeldReader.Columns columns = new HeldReader.Columns(identity, entitlement, place);
    try (InputStream in = Files.newInputStream(held)) {
      return HeldReader.read(in, columns, Integer.MAX_VALUE, lines::add);
    } catch (IOException _) {
      throw ModelFile.unreadable(held);
    }
  }

  private void requireFaultless(Path file, List<Fault> faults) throws ModelFile.Unusable {
    if (!faults.isEmpty()) {
      PrintWriter err = spec.commandLine().getErr();
      faults.forEach(it -> err.println(file + ": " + it));
      throw new ModelFile.Unusable(
          file + " has " + faults.size() + " faults; nothing was compared.", ModelFile.FOUND);
    }
  }

  private void print(Reconciliation.Answer answer, DiscrepancyText text, PrintWriter out) {
    if (format == Format.json) {
      ObjectNode json = JsonNodeFactory.instance.objectNode();
      json.put("lines", answer.lines());
      json.put("agreeing", answer.agreeing());
      ArrayNode found = json.putArray("discrepancies");
      for (Discrepancy it : answer.discrepancies()) {
        found
            .addObject()
            .put("id", it.id())
            .put("kind", DiscrepancyText.kind(it))
            .put("said", text.of(it));
      }
      ObjectNode untranslated = json.putObject("untranslated");
      answer.untranslated().forEach(untranslated::put);
      out.println(JsonMapper.builder().build().writeValueAsString(json));
    } else {
      answer
          .discrepancies()
          .forEach(it -> out.printf("%-9s  %s%n", DiscrepancyText.kind(it), text.of(it)));
      answer
          .untranslated()
          .forEach((term, many) ->
              out.println(
                  "no meaning  " + term + ", on " + many + (many == 1 ? " line" : " lines")));
      out.println(
          answer.discrepancies().size()
              + " discrepancies; "
              + answer.agreeing()
              + " agree, of "
              + answer.lines()
              + " lines");
    }
    out.flush();
  }
}
