package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import javax.imageio.ImageIO;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.pdmodel.PDPageContentStream;
import org.apache.pdfbox.pdmodel.common.PDRectangle;
import org.apache.pdfbox.pdmodel.encryption.AccessPermission;
import org.apache.pdfbox.pdmodel.encryption.StandardProtectionPolicy;
import org.apache.pdfbox.pdmodel.font.PDType1Font;
import org.apache.pdfbox.pdmodel.font.Standard14Fonts;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

@ExtendWith(Office.Extension.class)
class PdfPagesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final Browser browser;
    private final Account account;

    PdfPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        CurrentUser person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    private long letter(byte[] pdf) {
        return cabinet.arrives(
                account,
                TestMail.from("Anna <anna@wharf.example>\nContent-Type: multipart/mixed; boundary=b", "Plan")
                        .saying(
                                "--b\nContent-Type: application/pdf; name=plan.pdf\nContent-Disposition: attachment\nContent-Transfer-Encoding: base64\n\n"
                                        + Base64.getMimeEncoder().encodeToString(pdf) + "\n--b--\n"));
    }

    private static byte[] pdf(PDRectangle box, int pages, String password) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (PDDocument document = new PDDocument()) {
            for (int i = 1; i <= pages; i++) {
                PDPage page = new PDPage(box);
                document.addPage(page);
                try (PDPageContentStream content = new PDPageContentStream(document, page)) {
                    content.beginText();
                    content.setFont(new PDType1Font(Standard14Fonts.FontName.HELVETICA), 40);
                    content.newLineAtOffset(50, 50);
                    content.showText("Page " + i);
                    content.endText();
                }
            }
            if (!password.isEmpty()) {
                document.protect(new StandardProtectionPolicy(password, password, new AccessPermission()));
            }
            document.save(out);
        }
        return out.toByteArray();
    }

    private Document pages(long message) {
        return browser.get("/message/" + message + "/pages/1").page();
    }

    @Test
    void isLookedIntoPageByPage() throws Exception {
        long message = letter(pdf(PDRectangle.A4, 2, ""));
        String address = browser.part("/message/" + message, "sheet")
                .page()
                .select("details:contains(Look into plan.pdf)")
                .attr("hx-get");
        Document pages = browser.get(address).page();
        assertThat(pages.select("img").eachAttr("alt")).containsExactly("Page 1 of 2", "Page 2 of 2");
        String second = pages.select("img").get(1).attr("src");
        Browser.Answer picture = browser.get(second);
        assertThat(picture.header("Content-Type")).isEqualTo("image/png");
        BufferedImage image =
                ImageIO.read(new ByteArrayInputStream(picture.response().getContentAsByteArray()));
        assertThat(image.getWidth()).isBetween(890, 910);
        assertThat(isWrittenOn(image)).isTrue();
        Browser other = new Browser(office, office.person());
        assertThat(other.get(address).status()).isEqualTo(404);
        assertThat(other.get(second).status()).isEqualTo(404);
    }

    private static boolean isWrittenOn(BufferedImage image) {
        int dark = 0;
        for (int x = 0; x < image.getWidth(); x++) {
            for (int y = 0; y < image.getHeight(); y++) {
                dark += (image.getRGB(x, y) & 0xff) < 128 ? 1 : 0;
            }
        }
        return dark > 100;
    }

    @Test
    void whatCannotBeShownIsSaid() throws Exception {
        byte[] whole = pdf(PDRectangle.A4, 1, "");
        for (byte[] one : new byte[][] {
            new byte[0],
            "no PDF".getBytes(StandardCharsets.US_ASCII),
            java.util.Arrays.copyOf(whole, 60),
            pdf(PDRectangle.A4, 1, "secret")
        }) {
            long message = letter(one);
            assertThat(pages(message).text()).contains("It cannot be shown here");
            assertThat(browser.get("/message/" + message + "/page/1/1").status())
                    .isEqualTo(404);
        }
    }

    @Test
    void aPageAsLargeAsAFieldIsShownSmall() throws Exception {
        long message = letter(pdf(new PDRectangle(200, 1_000_000), 1, ""));
        assertThat(pages(message).select("img")).hasSize(1);
        Browser.Answer picture = browser.get("/message/" + message + "/page/1/1");
        BufferedImage image =
                ImageIO.read(new ByteArrayInputStream(picture.response().getContentAsByteArray()));
        assertThat((long) image.getWidth() * image.getHeight()).isLessThan(4_100_000);
    }
}
