package mandala.document.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import mandala.core.compliance.Finding;
import mandala.core.compliance.Findings;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.check.Fault;
import mandala.core.model.check.ModelCheck;
import mandala.document.DocumentReader;
import mandala.document.FindingText;
import mandala.document.ThingText;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Holds a model to expectations and exclusions, as a step of somebody's build. */
@Command(
    name = "test-access",
    description = {
      "Checks the expectations and exclusions of a model, and of a second document where one is"
          + " named.",
      "Exit code 0: all hold. 1: some do not, or a document has faults. 2: the call is wrong."
    },
    mixinStandardHelpOptions = true)
final class TestAccessCommand implements Callable<Integer> {

  @Parameters(index = "0", paramLabel = "MODEL.json", description = "A mandala-model/1 document.")
  private Path model = Path.of("");

  @Parameters(
      index = "1",
      arity = "0..1",
      paramLabel = "EXPECTATIONS.json",
      description = "A mandala-model/1 document with expectations and exclusions only.")
  private @Nullable Path expectations;

  @Option(names = "--at", description = "An instant like 2026-05-01T09:00:00Z (default: now).")
  private @Nullable String at;

  @Option(names = "--junit", paramLabel = "FILE", description = "Also writes JUnit XML there.")
  private @Nullable Path junit;

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable, IOException {
    PrintWriter out = spec.commandLine().getOut();
    AccessModel read = ModelFile.read(model, spec.commandLine().getErr());
    AccessModel tested = expectations == null ? read : joined(read, expectations);
    Engine engine = Engine.of(tested);
    Instant when = Instants.of(at);
    FindingText words = new FindingText(engine.catalogue(), engine.catalogue());
    Map<String, List<String>> broken = new LinkedHashMap<>();
    for (Finding finding : Findings.of(engine, when)) {
      FindingText.Told told = words.of(finding);
      broken
          .computeIfAbsent(told.kind() + " " + told.key(), _ -> new ArrayList<>())
          .add(told.said());
    }
    List<Case> cases = cases(tested, new ThingText(engine.catalogue()), broken);
    cases.forEach(it -> print(it, out));
    long failed = cases.stream().filter(it -> !it.broken().isEmpty()).count();
    out.printf("%d of %d hold at %s%n", cases.size() - failed, cases.size(), when);
    out.flush();
    if (junit != null) {
      write(junit, cases, failed);
    }
    return failed == 0 ? 0 : 1;
  }

  /** A statement, and what breaks it. */
  private record Case(String kind, String key, String said, List<String> broken) {}

  private AccessModel joined(AccessModel read, Path file) throws ModelFile.Unusable, IOException {
    DocumentReader.Result result;
    try (var in = Files.newInputStream(file)) {
      result = DocumentReader.readStatements(in, read);
    } catch (java.nio.file.NoSuchFileException _) {
      throw new ModelFile.Unusable("There is no file " + file + ".", ModelFile.UNUSABLE);
    }
    List<Fault> faults = new ArrayList<>(result.faults());
    if (faults.isEmpty()) {
      faults.addAll(ModelCheck.faultsOf(result.model()));
    }
    if (!faults.isEmpty()) {
      PrintWriter err = spec.commandLine().getErr();
      faults.forEach(it -> err.println(file + ": " + it));
      throw new ModelFile.Unusable(
          file + " has " + faults.size() + " faults; nothing was checked.", 1);
    }
    return result.model();
  }

  private static List<Case> cases(
      AccessModel model, ThingText text, Map<String, List<String>> broken) {
    List<Case> cases = new ArrayList<>();
    for (Kind kind : List.of(Kind.EXPECTATIONS, Kind.EXCLUSIONS)) {
      for (Thing it : model.things(kind)) {
        String key = String.valueOf(it.key());
        cases.add(
            new Case(
                kind.word(),
                key,
                text.of(it),
                broken.getOrDefault(kind.word() + " " + key, List.of())));
      }
    }
    return cases;
  }

  private static void print(Case it, PrintWriter out) {
    out.println((it.broken().isEmpty() ? "holds   " : "BROKEN  ") + it.key() + ": " + it.said());
    it.broken().forEach(each -> out.println("          " + each));
  }

  private static void write(Path file, List<Case> cases, long failed) throws IOException {
    try (Writer writer = Files.newBufferedWriter(file, StandardCharsets.UTF_8)) {
      XMLStreamWriter xml = XMLOutputFactory.newFactory().createXMLStreamWriter(writer);
      xml.writeStartDocument("UTF-8", "1.0");
      xml.writeStartElement("testsuite");
      xml.writeAttribute("name", "access");
      xml.writeAttribute("tests", String.valueOf(cases.size()));
      xml.writeAttribute("failures", String.valueOf(failed));
      for (Case it : cases) {
        xml.writeStartElement("testcase");
        xml.writeAttribute("classname", it.kind());
        xml.writeAttribute("name", it.key() + ": " + it.said());
        if (!it.broken().isEmpty()) {
          xml.writeStartElement("failure");
          xml.writeAttribute("message", it.broken().getFirst());
          xml.writeCharacters(String.join("\n", it.broken()));
          xml.writeEndElement();
        }
        xml.writeEndElement();
      }
      xml.writeEndElement();
      xml.writeEndDocument();
      xml.close();
    } catch (XMLStreamException e) {
      throw new IOException("The JUnit file could not be written", e);
    }
  }
}
