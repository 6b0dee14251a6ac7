using System.Text.Json;
using EvenThimble.Cli;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>The command that writes text as thread.</summary>
public sealed class LetterCommandTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("thimble-letters-").FullName;
    private readonly StringWriter _says = new();
    private readonly StringWriter _errors = new();

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    private string Here(string name) => Path.Combine(_folder, name);

    private int Letter(params string[] args) => CommandLine.Run(["letter", .. args], _says, _errors);

    private StitchFile Read(string name) => StitchFormats.Read(File.ReadAllBytes(Here(name)), name).File;

    [Fact]
    public void A_text_is_sewn_at_its_size_and_tells_where_each_letter_lies()
    {
        Letter("Comet over\\nthe Dome", "--font", "Bitter", "--width", "120", "--json", "-o", Here("comet.evth")).ShouldBe(0, _errors.ToString());
        var sewn = Read("comet.evth");
        sewn.Bounds.Width.ShouldBe(120 + (2 * ClothProfiles.Cotton.CompensationMm), 0.6);
        sewn.Parts.ShouldHaveSingleItem().Role.ShouldBe(PartRole.Lettering);
        var figures = JsonDocument.Parse(_says.ToString()).RootElement.GetProperty("files")[0].GetProperty("figures");
        var letters = figures.GetProperty("letters").EnumerateArray().ToList();
        string.Concat(letters.Select(l => l.GetProperty("text").GetString())).ShouldBe("CometovertheDome");
        letters.Count(l => l.GetProperty("line").GetInt32() == 2).ShouldBe(7);
        letters.Max(l => l.GetProperty("box").GetProperty("rightMm").GetDouble()).ShouldBe(60, 0.05);
        figures.GetProperty("file").GetProperty("stitches").GetInt32().ShouldBe(sewn.StitchCount);
    }

    [Fact]
    public void The_thread_is_trimmed_between_letters_that_stand_apart_and_goes_on_where_a_script_joins_them()
    {
        Letter("HIHIH", "--font", "Archivo", "-o", Here("apart.evth")).ShouldBe(0, _errors.ToString());
        Read("apart.evth").Stitches.CountOf(StitchKind.Trim).ShouldBe(5);
        Letter("moon", "--font", "Dancing Script", "-o", Here("joined.evth")).ShouldBe(0, _errors.ToString());
        Read("joined.evth").Stitches.CountOf(StitchKind.Trim).ShouldBeLessThanOrEqualTo(2);
    }

    [Fact]
    public void Letters_are_sewn_in_the_order_of_reading()
    {
        Letter("HELMUT", "--font", "Archivo", "--json", "-o", Here("order.evth")).ShouldBe(0, _errors.ToString());
        var boxes = JsonDocument.Parse(_says.ToString()).RootElement.GetProperty("files")[0].GetProperty("figures").GetProperty("letters").EnumerateArray()
            .Select(l => (Left: l.GetProperty("box").GetProperty("leftMm").GetDouble(), Right: l.GetProperty("box").GetProperty("rightMm").GetDouble())).ToList();
        var stitches = Read("order.evth").Stitches;
        var visited = Enumerable.Range(0, stitches.Count).Where(i => stitches.Kinds[i] == StitchKind.Stitch)
            .Select(i => boxes.FindIndex(b => stitches.At(i).X > b.Left + 0.3 && stitches.At(i).X < b.Right - 0.3)).Where(l => l >= 0).ToList();
        visited.Zip(visited.Skip(1)).ShouldAllBe(p => p.Second >= p.First);
        visited.Distinct().Count().ShouldBe(6);
    }

    [Fact]
    public void The_same_text_gives_the_same_stitches_and_every_way_its_own()
    {
        var hashes = new List<BlobHash>();
        foreach (var way in new[] { "automatic", "satin", "fill", "run" })
        {
            Letter("Iris", "--way", way, "--height", "30", "-o", Here($"{way}.evth")).ShouldBe(0, _errors.ToString());
            Letter("Iris", "--way", way, "--height", "30", "-o", Here($"{way}-again.evth")).ShouldBe(0, _errors.ToString());
            Read($"{way}.evth").Stitches.Hash.ShouldBe(Read($"{way}-again.evth").Stitches.Hash);
            hashes.Add(Read($"{way}.evth").Stitches.Hash);
        }

        hashes.Distinct().Count().ShouldBeGreaterThanOrEqualTo(3, "satin is what suits these strokes");
        Letter("Iris", "--height", "30", "--cloth", "terry towel", "-o", Here("towel.evth")).ShouldBe(0, _errors.ToString());
        Read("towel.evth").Stitches.Hash.ShouldNotBe(hashes[0]);
    }

    [Fact]
    public void Several_texts_go_into_a_folder_and_a_picture_is_drawn()
    {
        Letter("Ruth", "Amadi", "J. B. Okoro", "--height", "8", "-o", Here("names/")).ShouldBe(0, _errors.ToString());
        Directory.GetFiles(Here("names")).Select(Path.GetFileName).Order().ShouldBe(["Amadi.evth", "J. B. Okoro.evth", "Ruth.evth"]);
        Letter("Ruth", "-o", Here("ruth.png")).ShouldBe(0, _errors.ToString());
        File.ReadAllBytes(Here("ruth.png"))[1..4].ShouldBe("PNG"u8.ToArray());
        Letter("Ruth", "-o", Here("ruth.svg")).ShouldBe(0, _errors.ToString());
        StitchFormats.Read(File.ReadAllBytes(Here("ruth.svg")), "ruth.svg").File.StitchCount.ShouldBeGreaterThan(200);
    }

    [Theory]
    [InlineData(1, "no text", "")]
    [InlineData(1, "neither a font file nor", "x", "--font", "No Such Font")]
    [InlineData(1, "diameter of", "Far too long for this", "--ring", "12")]
    [InlineData(1, "none of these characters", "🙂")]
    [InlineData(2, "from 2 to 500 mm", "x", "--height", "0")]
    [InlineData(2, "from 2 to 500 mm", "x", "--height", "10000")]
    [InlineData(2, "not on both", "x", "--ring", "80", "--arc", "90")]
    [InlineData(2, "no shape to bend to", "x", "--bend", "zigzag")]
    [InlineData(2, "is no bend", "x", "--bend", "arch:7")]
    [InlineData(2, "is not a number", "x", "--height", "tall")]
    public void What_cannot_be_done_is_said_and_nothing_is_written(int code, string says, params string[] args)
    {
        Letter([.. args, "-o", Here("nothing.evth")]).ShouldBe(code);
        _errors.ToString().ShouldContain(says);
        Directory.EnumerateFileSystemEntries(_folder).ShouldBeEmpty();
    }

    [Fact]
    public void A_font_that_is_none_is_refused()
    {
        File.WriteAllText(Here("letter.ttf"), "this is a letter, not a font");
        Letter("x", "--font", Here("letter.ttf"), "-o", Here("nothing.evth")).ShouldBe(1);
        _errors.ToString().ShouldContain("no font that can be read");
        File.Exists(Here("nothing.evth")).ShouldBeFalse();
    }
}
