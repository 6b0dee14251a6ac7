using System.Text;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Tests.Formats;

/// <summary>Files damaged on purpose: each gets a sentence, none an exception of the program's own.</summary>
public class DamagedFileTests
{
    private const int FuzzCasesPerKind = 4000;
    private static readonly byte[] Info = "{\"title\":\"x\"}"u8.ToArray();
    private static readonly byte[] OneThread = [1, 0, 1, 2, 3, 0, 0, 0];

    public static TheoryData<string> Kinds() => [.. StitchFormats.Kinds.Select(k => k.Id)];

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Every_truncation_is_refused_in_a_sentence(string kind)
    {
        var whole = StitchFormats.Write(StitchFormats.Find(kind)!, MadeUp.File(11, parts: 2, recordsPerPart: 30));

        // The last line feed of the text formats may go missing without harm.
        var harmless = kind is "csv" ? 2 : kind is "gcode" ? 1 : 0;
        for (var n = 0; n < whole.Length - harmless; n++) Refused(whole.AsSpan(0, n).ToArray());
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Thousands_of_damaged_files_are_read_or_refused_in_a_sentence(string kind)
    {
        var whole = StitchFormats.Write(StitchFormats.Find(kind)!, MadeUp.File(12, parts: 3, recordsPerPart: 40));
        var refused = 0;
        for (var seed = 0; seed < FuzzCasesPerKind; seed++)
        {
            var damaged = Damaged(whole, new Random(seed));
            try
            {
                StitchFormats.Read(damaged, "damaged").File.StitchCount.ShouldBeGreaterThan(0);
            }
            catch (StitchFileException e)
            {
                e.Message.ShouldEndWith(".");
                refused++;
            }
        }

        refused.ShouldBeGreaterThan(FuzzCasesPerKind / 4);
    }

    [Theory]
    [InlineData("evth1")]
    [InlineData("evth2")]
    public void No_flipped_bit_of_the_stitches_goes_unnoticed(string kind)
    {
        var file = MadeUp.File(13, parts: 2, recordsPerPart: 20);
        var whole = StitchFormats.Write(StitchFormats.Find(kind)!, file);
        var from = kind == "evth1" ? 64 : 8;
        for (var i = from; i < whole.Length; i++)
        {
            var damaged = (byte[])whole.Clone();
            damaged[i] ^= (byte)(1 << (i % 8));
            Refused(damaged);
        }
    }

    [Fact]
    public void What_is_no_stitch_file_at_all_is_told_so()
    {
        Refused([]).ShouldContain("empty");
        Refused("GIF89a"u8.ToArray()).ShouldContain("not a stitch file");
        Refused(new byte[100_000]).ShouldContain("not a stitch file");
        Refused([.. "EVTH"u8, 9, 64]).ShouldContain("header");
        Refused([.. "EVTH"u8, 9, .. new byte[80]]).ShouldContain("revision 9");
        Refused("<svg xmlns='http://www.w3.org/2000/svg'><path d='M0 0L9 9'/></svg>"u8.ToArray()).ShouldContain("drawing");
    }

    [Fact]
    public void A_count_that_lies_takes_no_memory()
    {
        byte[] stitches = [0xFF, 0xFF, 0xFF, 0x7F, 3, 0, 0, 0, 2, 2, 255];
        Refused(ByteByByteTests.Revision2(("INFO", Info), ("THRD", OneThread), ("STCH", stitches), ("ENDF", []))).ShouldContain("announces");
        Refused(ByteByByteTests.Revision1([0, 1, 1, 255, 0, 0], 0, [1, 1, 1, 1], "x", count: 0xFFFFFFFF)).ShouldContain("cut short");
        Refused(ByteByByteTests.Revision1([0, 1, 1, 255, 0, 0], 3, [1, 1, 1, 1], "x")).ShouldContain("3 thread changes");
    }

    [Theory]
    [InlineData(new byte[] { 2, 0, 0, 0, 3, 5, 0, 255 }, "thread 6")]
    [InlineData(new byte[] { 2, 0, 0, 0, 3, 0, 9, 255 }, "no role")]
    [InlineData(new byte[] { 2, 0, 0, 0, 0, 2, 2, 255 }, "does not name a thread")]
    [InlineData(new byte[] { 3, 0, 0, 0, 3, 0, 0, 255, 255 }, "ends at record")]
    [InlineData(new byte[] { 2, 0, 0, 0, 3, 0, 0, 77 }, "no kind of record")]
    [InlineData(new byte[] { 3, 0, 0, 0, 3, 0, 0, 0, 0xFF, 0xFF, 0xFF, 0xFF, 0x7F, 0, 255 }, "too long")]
    [InlineData(new byte[] { 3, 0, 0, 0, 3, 0, 0, 0, 0xFF, 0xFF, 0xFF, 0xFF, 0x0F, 0, 255 }, "largest area")]
    [InlineData(new byte[] { 3, 0, 0, 0, 3, 0, 0, 4, 200, 1, 255 }, "ends in the middle")]
    [InlineData(new byte[] { 2, 0, 0, 0, 3, 0, 0, 255, 0 }, "left over")]
    public void Each_kind_of_lie_in_the_stitches_gets_its_own_sentence(byte[] stitches, string says) =>
        Refused(ByteByByteTests.Revision2(("INFO", Info), ("THRD", OneThread), ("STCH", stitches), ("ENDF", []))).ShouldContain(says);

    [Fact]
    public void Chunks_that_are_missing_or_out_of_order_are_named()
    {
        Refused(ByteByByteTests.Revision2(("THRD", OneThread), ("INFO", Info), ("ENDF", []))).ShouldContain("INFO");
        Refused(ByteByByteTests.Revision2(("INFO", Info), ("ENDF", []))).ShouldContain("THRD");
        byte[] one = [3, 0, 0, 0, 3, 0, 0, 0, 2, 2, 255];
        Refused([.. ByteByByteTests.Revision2(("INFO", Info), ("THRD", OneThread), ("STCH", one), ("ENDF", [])), 0]).ShouldContain("after its end");
        Refused(ByteByByteTests.Revision2(("INFO", "[1]"u8.ToArray()), ("THRD", OneThread), ("STCH", one), ("ENDF", []))).ShouldContain("INFO");
    }

    [Fact]
    public void Steps_that_leave_the_area_of_revision_1_are_refused()
    {
        var records = Enumerable.Range(0, 300).SelectMany(_ => new byte[] { 1, 127, 0 }).Concat(new byte[] { 0, 0, 0, 255, 0, 0 }).ToArray();
        Refused(ByteByByteTests.Revision1(records, 0, [0, 0, 0, 0], "far")).ShouldContain("largest area");
        var builder = new StitchBuilder();
        builder.Stitch(new(4000, 0));
        Should.Throw<StitchFileException>(() => StitchFormats.Write(StitchFileKind.Evth1, new("far", builder.ToBlob(), [new(0, 1, MadeUp.Thread("a"), 0)]))).Message.ShouldContain("Centre");
    }

    [Fact]
    public void A_design_without_stitches_is_sound_but_refused()
    {
        Refused(ByteByByteTests.Revision1([1, 5, 5, 255, 0, 0], 0, [0, 0, 0, 0], "empty")).ShouldContain("no stitches");
        Refused("op,x_mm,y_mm,thread,colour,role\r\nend,,,,,\r\n"u8.ToArray()).ShouldContain("no stitches");
    }

    [Theory]
    [InlineData("stitch,1,abc,,,", "row 2", "abc")]
    [InlineData("stitch,1e300,0,,,", "row 2", "1e300")]
    [InlineData("stitch,1,2", "row 2", "3 columns")]
    [InlineData("sew,1,2,,,", "row 2", "sew")]
    [InlineData("change,,,F|1|x,blue,decoration", "row 2", "blue")]
    [InlineData("change,,,F|1|x,#102030,hero", "row 2", "hero")]
    [InlineData("stitch,\"1,2", "row 2", "quotation")]
    public void A_wrong_row_of_a_stitch_table_is_named(string row, string where, string what)
    {
        var message = Refused(Encoding.UTF8.GetBytes($"op,x_mm,y_mm,thread,colour,role\n{row}\nend,,,,,\n"));
        message.ShouldContain(where, Case.Insensitive);
        message.ShouldContain(what);
    }

    [Fact]
    public void A_stitch_plan_with_a_document_type_or_entities_is_refused()
    {
        const string bomb = "<!DOCTYPE svg [<!ENTITY a \"aaaa\"><!ENTITY b \"&a;&a;\">]><svg xmlns=\"http://www.w3.org/2000/svg\"><title>&b;</title></svg>";
        Refused(Encoding.UTF8.GetBytes(bomb)).ShouldContain("DTD");
    }

    [Fact]
    public void A_stitch_plan_drawn_by_others_needs_no_words_about_jumps()
    {
        const string plain = "<svg xmlns='http://www.w3.org/2000/svg'><g data-thread='F|1|Tarn' data-colour='#2f4b7c' data-role='cover'><polyline points='0,0 2,0'/><polyline points='30 0 32 0'/></g></svg>";
        var file = StitchFormats.Read(Encoding.UTF8.GetBytes(plain), "plain.svg").File;
        file.Stitches.Kinds.ToArray().ShouldBe([StitchKind.Jump, StitchKind.Stitch, StitchKind.Stitch, StitchKind.Trim, StitchKind.Jump, StitchKind.Stitch, StitchKind.Stitch]);
        file.Title.ShouldBe("plain");
    }

    private static string Refused(byte[] bytes) => Should.Throw<StitchFileException>(() => StitchFormats.Read(bytes, "x")).Message;

    private static byte[] Damaged(byte[] whole, Random random)
    {
        var bytes = new List<byte>(whole);
        for (var k = random.Next(1, 6); k > 0; k--)
        {
            var at = random.Next(bytes.Count);
            switch (random.Next(5))
            {
                case 0: bytes[at] = (byte)random.Next(256); break;
                case 1: bytes.RemoveAt(at); break;
                case 2: bytes.Insert(at, (byte)random.Next(256)); break;
                case 3: bytes.RemoveRange(at, Math.Min(bytes.Count - at, random.Next(1, 40))); break;
                default: bytes.InsertRange(at, bytes.GetRange(at, Math.Min(bytes.Count - at, random.Next(1, 40)))); break;
            }

            if (bytes.Count == 0) break;
        }

        return [.. bytes];
    }
}
