package mandala.server.history;

import java.nio.file.Path;
import java.util.Optional;
import mandala.server.audit.SignedHeads;
import mandala.server.audit.Trail;
import mandala.server.model.ModelProof;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.ApplicationRunner;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * {@code ./mandala verify-trail}: reads the whole trail, says what it found, and ends; {@code
 * ./mandala verify-report FILE} holds a file to it, too.
 */
@Configuration
@ConditionalOnProperty("mandala.verify-trail")
class VerifyTrail {

  @Bean
  ApplicationRunner verification(
      Trail trail,
      ModelProof model,
      SignedHeads heads,
      ReportProof reports,
      @Value("${mandala.verify-report:}") String report,
      ConfigurableApplicationContext context) {
    return _ -> {
      Trail.Verified found = trail.verify();
      Optional<String> ofModel = found.fault().isPresent() ? Optional.empty() : model.fault();
      String answer =
          found
              .fault()
              .map(fault -> "BROKEN: " + fault + ". The lines before it are sound.")
              .or(() -> ofModel.map(fault -> "BROKEN: " + fault + ". The trail itself is sound."))
              .orElse("SOUND: " + found.lines() + " lines, head " + found.head());
      System.out.println(answer);
      System.out.println("Signed with the key " + heads.publicKey());
      boolean sound = found.fault().isEmpty() && ofModel.isEmpty();
      if (!report.isEmpty()) {
        String said = reports.of(Path.of(report));
        System.out.println(said);
        sound &= said.startsWith("GENUINE");
      }
      int status = sound ? 0 : 1;
      new Thread(() -> System.exit(status)).start(); // ends once the context is up
    };
  }
}
