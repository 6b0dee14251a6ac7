using System.Text;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using FsCheck.Xunit;

namespace EvenThimble.Core.Tests.Formats;

[Properties(Arbitrary = [typeof(MadeUpFiles)], MaxTest = 120)]
public class RoundTripTests
{
    [Property]
    public void A_revision_2_file_comes_back_with_every_record_thread_role_and_message(StitchFile file) =>
        AssertSame(file, Again(StitchFileKind.Evth2, file), messages: true);

    [Property]
    public void A_stitch_table_comes_back_with_every_record_thread_and_role(StitchFile file) =>
        AssertSame(file with { Title = "table" }, Again(StitchFileKind.Csv, file), messages: false);

    [Property]
    public void A_stitch_plan_comes_back_with_every_record_thread_role_and_message(StitchFile file) =>
        AssertSame(file, Again(StitchFileKind.Svg, file), messages: true);

    [Property]
    public void A_revision_1_file_loses_no_stitch_trim_or_stop_and_moves_none_by_more_than_half_a_step(StitchFile file)
    {
        var again = Again(StitchFileKind.Evth1, file);
        var (meant, found) = (Sewn(file.Stitches), Sewn(again.Stitches));
        found.Select(r => r.Kind).ShouldBe(meant.Select(r => r.Kind));
        foreach (var (a, b) in meant.Zip(found).Where(p => p.First.Kind == StitchKind.Stitch))
        {
            b.X.ShouldBe(a.X, 0.0501);
            b.Y.ShouldBe(a.Y, 0.0501);
        }

        again.ThreadChanges.ShouldBe(file.ThreadChanges);
    }

    [Property]
    public void G_code_comes_back_with_every_stitch(StitchFile file)
    {
        var (meant, found) = (Sewn(file.Stitches), Sewn(Again(StitchFileKind.GCode, file).Stitches));
        found.Count.ShouldBe(meant.Count);
        foreach (var (a, b) in meant.Zip(found).Where(p => p.First.Kind == StitchKind.Stitch))
        {
            b.X.ShouldBe(a.X, 0.00006);
            b.Y.ShouldBe(a.Y, 0.00006);
        }
    }

    [Property]
    public void Writing_what_was_read_gives_the_same_bytes(StitchFile file)
    {
        foreach (var kind in StitchFormats.Kinds.Where(k => k != StitchFileKind.Evth1))
        {
            var once = StitchFormats.Write(kind, file);
            StitchFormats.Write(kind, StitchFormats.Read(once, file.Title).File).ShouldBe(once, kind.Name);
        }
    }

    [Fact]
    public void Rounding_to_a_tenth_never_adds_up()
    {
        var builder = new StitchBuilder();
        for (var i = 0; i < 3000; i++) builder.Stitch(new(i * 0.14, i * 0.06));
        var file = new StitchFile("Slow drift", builder.ToBlob(), [new(0, 3000, SewingThread.Unnamed(0), PartRole.Decoration)]);
        var again = Again(StitchFileKind.Evth1, file);
        again.Stitches.X[^1].ShouldBe(2999 * 0.14, 0.0501);
        again.Stitches.Y[^1].ShouldBe(2999 * 0.06, 0.0501);
    }

    [Fact]
    public void A_step_too_long_for_revision_1_goes_as_jumps_that_end_in_the_stitch()
    {
        var builder = new StitchBuilder();
        builder.Stitch(new(0, 0));
        builder.Stitch(new(40, -30));
        var again = Again(StitchFileKind.Evth1, new("Long", builder.ToBlob(), [new(0, 2, SewingThread.Unnamed(0), PartRole.Decoration)]));
        again.Stitches.Kinds.ToArray().ShouldBe([StitchKind.Stitch, StitchKind.Jump, StitchKind.Jump, StitchKind.Jump, StitchKind.Stitch]);
        again.Stitches.At(4).ShouldBe(new(40, -30));
        for (var i = 1; i < 5; i++) Math.Abs(again.Stitches.X[i] - again.Stitches.X[i - 1]).ShouldBeLessThanOrEqualTo(12.7001);
    }

    [Fact]
    public void Revision_1_cuts_a_title_at_32_bytes_but_never_inside_a_letter()
    {
        var file = MadeUp.Rows((0, 0, "a")) with { Title = "Sternwarte über dem Hügel: größere é́ Kuppel" };
        var bytes = StitchFormats.Write(StitchFileKind.Evth1, file);
        var title = Encoding.UTF8.GetString(bytes, 26, 32).TrimEnd('\0');
        Titles.Clean(file.Title).ShouldStartWith(title);
        title.ShouldNotContain('\uFFFD');
        Encoding.UTF8.GetByteCount(title).ShouldBeInRange(28, 32);
    }

    [Fact]
    public void Every_kind_says_what_it_cannot_carry()
    {
        var file = MadeUp.File(3);
        StitchFormats.Losses(StitchFileKind.Evth2, file).ShouldBeEmpty();
        StitchFormats.Losses(StitchFileKind.Svg, file).ShouldBeEmpty();
        StitchFormats.Losses(StitchFileKind.Evth1, file).ShouldContain(l => l.Contains("colours"));
        StitchFormats.Losses(StitchFileKind.Csv, file).Any(l => l.Contains("messages")).ShouldBe(file.Stitches.Messages.Count > 0);
    }

    [Fact]
    public void What_reads_back_differently_is_not_handed_out()
    {
        var file = MadeUp.File(9);
        var other = StitchFormats.Write(StitchFileKind.Evth2, MadeUp.File(10));
        Should.Throw<StitchFileException>(() => ReadBack.Verify(new Evth2Format(), file, other)).Message.ShouldContain("not handed out");
    }

    [Fact]
    public void Hoop_and_picture_travel_with_a_revision_2_file()
    {
        byte[] picture = [0x89, 0x50, 0x4E, 0x47, 1, 2, 3];
        var file = MadeUp.File(5) with { Hoop = new("130 × 300 long hoop", 2, 3, 0, -60.5), Picture = picture };
        var again = Again(StitchFileKind.Evth2, file);
        again.Hoop.ShouldBe(file.Hoop);
        again.Picture.ToArray().ShouldBe(picture);
    }

    private static StitchFile Again(StitchFileKind kind, StitchFile file) => StitchFormats.Read(StitchFormats.Write(kind, file), "table.x").File;

    private static List<(StitchKind Kind, double X, double Y)> Sewn(StitchBlob blob) =>
        [.. Enumerable.Range(0, blob.Count).Where(i => blob.Kinds[i] != StitchKind.Jump).Select(i => (blob.Kinds[i], blob.X[i], blob.Y[i]))];

    private static void AssertSame(StitchFile meant, StitchFile found, bool messages)
    {
        found.Title.ShouldBe(meant.Title);
        found.Stitches.Kinds.ToArray().ShouldBe(meant.Stitches.Kinds.ToArray());
        found.Stitches.X.ToArray().ShouldBe(meant.Stitches.X.ToArray());
        found.Stitches.Y.ToArray().ShouldBe(meant.Stitches.Y.ToArray());
        found.Parts.ToArray().ShouldBe(meant.Parts.ToArray());
        if (messages) found.Stitches.Messages.ShouldBe(meant.Stitches.Messages);
    }
}
