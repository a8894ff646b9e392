package mandala.document.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import mandala.core.engine.Engine;
import mandala.core.excess.UseWindow;
import mandala.core.model.Subject;
import mandala.core.question.Impact;
import mandala.core.shrink.ShrinkOrder;
import mandala.core.shrink.ShrinkStep;
import mandala.core.shrink.Shrinker;
import mandala.document.ChangeTeller;
import mandala.document.Naming;
import mandala.document.ShrinkText;
import mandala.document.Words;
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

/** Writes a smaller model: without what nobody needs (section 12). */
@Command(
    name = "shrink",
    description = {
      "Writes a smaller model: nobody gains access and everyone keeps what they need.",
      "Prints the exposure before, after and at the floor, and each change with its reason."
    },
    mixinStandardHelpOptions = true)
final class ShrinkCommand implements Callable<Integer> {

  @Mixin private Asking asking = new Asking();

  @Parameters(
      index = "1",
      paramLabel = "USE.jsonl",
      description = "A mandala-use/1 file: one JSON object a line.")
  private Path file = Path.of("");

  @Mixin private UseFile use = new UseFile();

  @Option(
      names = "--for",
      paramLabel = "person:K|service:K|group:K|account:K",
      description = "Whose access; may be given several times (default: everybody's).")
  private List<String> whom = new ArrayList<>();

  @Option(
      names = "--tight",
      description =
          "0 to remove only what nobody needs, 1 to narrow every assignment to what its holders"
              + " need (default: 1).")
  private double tight = 1;

  @Mixin private WrittenModel written = new WrittenModel();

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable {
    UseWindow window = use.window(asking.at());
    if (!(tight >= 0 && tight <= 1)) {
      throw new ModelFile.Unusable(
          "--tight: " + tight + " is out of range. Write a number from 0 to 1.",
          ModelFile.UNUSABLE);
    }
    if (asking.format() == Table.Format.csv) {
      throw new ModelFile.Unusable(
          "--format: changes are no table. Write text or json.", ModelFile.UNUSABLE);
    }
    PrintWriter err = spec.commandLine().getErr();
    UseFile.Read read = use.read(file, asking, err);
    Engine engine = read.engine();
    List<Subject> selection = selection(engine);
    ShrinkOrder order =
        ShrinkOrder.of(
                window, UseFile.told(read, window, err), ShrinkOrder.acted(read.records(), window))
            .only(selection)
            .tight(tight);
    Shrinker.Answer answer = Shrinker.of(engine, engine, order, Impact.Watch.TO_THE_END);
    written.write(answer.model());
    print(answer, engine, spec.commandLine().getOut());
    return 0;
  }

  private List<Subject> selection(Engine engine) throws ModelFile.Unusable {
    List<Subject> selection = new ArrayList<>();
    for (String word : whom) {
      Subject subject;
      try {
        subject = Words.subject(word);
      } catch (IllegalArgumentException e) {
        throw unknown(word);
      }
      boolean known =
          switch (subject) {
            case Subject.OfPrincipal(var kind, var key) -> engine.catalogue().has(kind, key);
            case Subject.OfGroup(var key) -> engine.catalogue().groups().containsKey(key);
            case Subject.OfAccount(var key) -> engine.catalogue().accounts().containsKey(key);
            case Subject.OfPattern _, Subject.Public _ -> false;
          };
      if (!known) {
        throw unknown(word);
      }
      selection.add(subject);
    }
    return selection;
  }

  private static ModelFile.Unusable unknown(String word) {
    return new ModelFile.Unusable(
        "--for: there is no '"
            + word
            + "' in the model. Write person:, service:, group: or account: with a key.",
        ModelFile.UNUSABLE);
  }

  private void print(Shrinker.Answer answer, Engine engine, PrintWriter out) {
    ChangeTeller teller = new ChangeTeller(engine.catalogue(), Naming.ALL);
    List<String> sentences = new ArrayList<>();
    for (ShrinkStep step : answer.steps()) {
      sentences.add(
          WrittenModel.sentence(teller, step.changes(), ShrinkText.why(step.why(), use.days())));
    }
    int before = engine.catalogue().assignments().size();
    int after = answer.model().assignments().size();
    if (asking.format() == Table.Format.json) {
      ObjectNode json = JsonNodeFactory.instance.objectNode();
      json.put("before", answer.before());
      json.put("after", answer.after());
      json.put("floor", answer.floor());
      json.put("assignmentsBefore", before);
      json.put("assignmentsAfter", after);
      ArrayNode changes = json.putArray("changes");
      sentences.forEach(changes::add);
      out.println(JsonMapper.builder().build().writeValueAsString(json));
    } else {
      out.printf(
          Locale.ROOT,
          "exposure %d before, %d after, floor %d (%.0f %% of the way)%n",
          answer.before(),
          answer.after(),
          answer.floor(),
          100 * answer.reached());
      out.println(before + " assignments before, " + after + " after");
      sentences.forEach(it -> out.println("  " + it));
    }
    out.flush();
  }
}
