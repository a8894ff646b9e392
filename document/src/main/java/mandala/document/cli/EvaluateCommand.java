package mandala.document.cli;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import mandala.core.engine.Engine;
import mandala.core.question.Decision;
import mandala.document.QuestionLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Answers a file of questions. */
@Command(
    name = "evaluate",
    description = {
      "Prints one JSON line for each question, in order, with its verdict.",
      "A question that cannot be asked has the verdict error, with a reason."
    },
    mixinStandardHelpOptions = true)
final class EvaluateCommand implements Callable<Integer> {

  @Parameters(index = "0", paramLabel = "MODEL.json", description = "A mandala-model/1 document.")
  private Path model = Path.of("");

  @Parameters(
      index = "1",
      paramLabel = "QUESTIONS.jsonl",
      description =
          "One JSON question a line: principal, permission, resource, at, mfa, actingFor.")
  private Path questions = Path.of("");

  @Option(
      names = "--expect",
      description = "Print only where a verdict differs from the question's own, and exit 1 then.")
  private boolean expect;

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable {
    PrintWriter out = spec.commandLine().getOut();
    Engine engine = Engine.of(ModelFile.read(model, spec.commandLine().getErr()));
    int number = 0;
    int asked = 0;
    int differ = 0;
    try (BufferedReader lines = Files.newBufferedReader(questions)) {
      for (String line = lines.readLine(); line != null; line = lines.readLine()) {
        number++;
        if (line.isBlank()) {
          continue;
        }
        asked++;
        QuestionLine question = QuestionLine.parse(line);
        Decision decision = question.decide(engine);
        if (!expect) {
          out.println(question.answer(decision));
        } else if (!decision.verdict().word().equals(question.expected())) {
          differ++;
          out.println(
              "line %d: expected %s, found %s: %s"
                  .formatted(
                      number,
                      question.expected() == null ? "nothing" : question.expected(),
                      decision.verdict().word(),
                      question.answer(decision)));
        }
      }
    } catch (IOException e) {
      throw ModelFile.unreadable(questions);
    }
    if (expect) {
      out.println("%d questions, %d differ".formatted(asked, differ));
    }
    out.flush();
    return differ > 0 ? ModelFile.FOUND : 0;
  }
}
