package mandala.document.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.tidy.Tidier;
import mandala.core.tidy.TidyStep;
import mandala.document.ChangeTeller;
import mandala.document.Naming;
import mandala.document.TidyText;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** Writes a model that means the same with less (section 12). */
@Command(
    name = "tidy",
    description = {
      "Takes out of a model what changes nothing by going, writes the tidier one, and prints the",
      "number of statements before and after with each change and its reason."
    },
    mixinStandardHelpOptions = true)
final class TidyCommand implements Callable<Integer> {

  /** How it is printed. */
  private enum Format {
    text,
    json
  }

  @Parameters(index = "0", paramLabel = "MODEL.json", description = "A mandala-model/1 document.")
  private Path model = Path.of("");

  @Option(
      names = "--at",
      description =
          "An instant like 2026-05-01T09:00:00Z; those before do not count (default: now).")
  private @Nullable String at;

  @Option(
      names = "--format",
      description = "How to print it: ${COMPLETION-CANDIDATES} (default: text).")
  private Format format = Format.text;

  @Option(
      names = "--roles",
      description = "Also propose roles and groups for what many are given one by one.")
  private boolean roles;

  @Mixin private WrittenModel written = new WrittenModel();

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable {
    Engine engine = Engine.of(ModelFile.read(model, spec.commandLine().getErr()));
    Tidier.Answer answer =
        Tidier.of(engine, Instants.of(at), roles ? Tidier.Also.ROLES : Tidier.Also.NOTHING);
    written.write(answer.after());
    print(answer, sentences(answer, engine.catalogue()), spec.commandLine().getOut());
    return 0;
  }

  private void print(Tidier.Answer answer, List<String> sentences, PrintWriter out) {
    if (format == Format.json) {
      ObjectNode json = JsonNodeFactory.instance.objectNode();
      json.put("before", answer.before().total());
      json.put("after", answer.size().total());
      ArrayNode changes = json.putArray("changes");
      sentences.forEach(changes::add);
      out.println(JsonMapper.builder().build().writeValueAsString(json));
    } else {
      out.println(
          answer.before().total() + " statements before, " + answer.size().total() + " after");
      sentences.forEach(it -> out.println("  " + it));
    }
    out.flush();
  }

  private static List<String> sentences(Tidier.Answer answer, Catalogue before) {
    List<String> sentences = new ArrayList<>();
    ChangeTeller teller = new ChangeTeller(before, Naming.ALL);
    TidyText text = new TidyText(before, new Catalogue(answer.after()), Naming.ALL);
    for (TidyStep step : answer.steps()) {
      sentences.add(WrittenModel.sentence(teller, step.changes(), text.why(step.why())));
    }
    return sentences;
  }
}
