import com.android.apksig.ApkVerifier;
import java.io.File;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Paths;
import java.security.Provider;
import java.security.Security;

/**
 * What the platform's own verifier says of packages. Arguments: a file of lines `PATH LOWEST HIGHEST`, parted by tabs;
 * with 0 as the lowest level, all that the package says it runs on. Prints each line with `accepted` or `refused` and why.
 */
public class VerdictsByLevel {
  public static void main(String[] arguments) throws Exception {
    PrintStream out = System.out;
    System.setOut(System.err);
    Security.addProvider(new Pss());
    for (String line : Files.readAllLines(Paths.get(arguments[0]))) {
      String[] asked = line.split("\t");
      ApkVerifier.Builder builder = new ApkVerifier.Builder(new File(asked[0]));
      int lowest = Integer.parseInt(asked[1]);
      if (lowest > 0) {
        builder.setMinCheckedPlatformVersion(lowest);
        builder.setMaxCheckedPlatformVersion(Integer.parseInt(asked[2]));
      }
      String verdict = "refused";
      String why;
      try {
        ApkVerifier.Result result = builder.build().verify();
        if (result.isVerified()) verdict = "accepted";
        why = result.getAllErrors().toString();
      } catch (Exception error) {
        why = error.toString();
      }
      out.println(line + "\t" + verdict + "\t" + why.replaceAll("\\s+", " "));
    }
  }

  /** The names under which Android has this signature; the Java platform has it under another. */
  static class Pss extends Provider {
    Pss() {
      super("pss", "1", "RSA-PSS by its names on Android");
      put("Signature.SHA256withRSA/PSS", "sun.security.rsa.RSAPSSSignature");
      put("Signature.SHA512withRSA/PSS", "sun.security.rsa.RSAPSSSignature");
    }
  }
}
