package mandala.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

/** Features form no cycles, and the platform knows none of them. */
@AnalyzeClasses(packages = "mandala.server", importOptions = DoNotIncludeTests.class)
class ArchitectureTest {

  @ArchTest
  static final ArchRule featuresFormNoCycles =
      slices().matching("mandala.server.(*)..").should().beFreeOfCycles();

  @ArchTest
  static final ArchRule thePlatformKnowsNoFeature =
      noClasses()
          .that()
          .resideInAPackage("mandala.server.platform..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "mandala.server.model..",
              "mandala.server.session..",
              "mandala.server.access..",
              "mandala.server.directory..",
              "mandala.server.draft..",
              "mandala.server.history..",
              "mandala.server.things..",
              "mandala.server.trail..",
              "mandala.server.demo..");
}
