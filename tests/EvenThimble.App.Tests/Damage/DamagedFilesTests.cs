using System.Diagnostics;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Cut;
using EvenThimble.Core.Files.Drawing;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Letters;
using EvenThimble.Core.Files.Rosters;
using EvenThimble.Core.Files.Tables;
using EvenThimble.Core.Files.Threads;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Core.Work;
using EvenThimble.Rendering;
using EvenThimble.Rendering.Fonts;
using EvenThimble.Web.Workroom;

namespace EvenThimble.App.Tests.Damage;

/// <summary>Thousands of damaged files through every importer, as far as a plan and a picture. <c>./even-thimble fuzz</c> tries more of them.</summary>
public sealed class DamagedFilesTests
{
    private const int InTheSuite = 700;
    private static readonly TimeSpan Most = TimeSpan.FromSeconds(5);

    [Fact]
    public void Whatever_is_wrong_in_a_file_it_is_taken_in_or_refused_in_a_sentence()
    {
        var files = new DamagedFiles(Fuzz.Seed);
        var (taken, refused, slowest) = (0, 0, TimeSpan.Zero);
        for (var n = 0; n < Fuzz.CasesOr(InTheSuite); n++)
        {
            var file = files.Next();
            var clock = Stopwatch.StartNew();
            try
            {
                using (WorkBudget.Begin(Most)) TakeIn(file);
                taken++;
            }
            catch (RefusedException e)
            {
                e.Message.Length.ShouldBeInRange(10, 240, $"case {n}, {file.Name}: {e.Message}");
                e.Message.ShouldNotContain("Exception");
                refused++;
            }
            catch (Exception e)
            {
                Fuzz.Keep(file, n);
                throw new ShouldAssertException($"case {n} of seed {Fuzz.Seed}, {file.Name} ({file.Bytes.Length} bytes): {e.GetType().Name}: {e.Message}\n{e.StackTrace}");
            }

            if (clock.Elapsed > slowest) slowest = clock.Elapsed;
            if (clock.Elapsed > 2 * Most) Fuzz.Keep(file, n);
            clock.Elapsed.ShouldBeLessThan(2 * Most, $"case {n}, {file.Name}");
        }

        TestContext.Current.SendDiagnosticMessage($"{taken} taken in, {refused} refused, slowest {slowest.TotalSeconds:0.0} s");
        taken.ShouldBeGreaterThan(0);
        refused.ShouldBeGreaterThan(0);
    }

    private static void TakeIn(DamagedFile file)
    {
        switch (file.Kind)
        {
            case "drawing":
                var drawing = SvgDrawing.Read(file.Bytes);
                foreach (var shape in drawing.Shapes.Take(20)) BroughtDrawing.Suggested(shape);
                break;
            case "job":
                var archive = JobArchive.FromBytes(file.Bytes);
                var plan = Sequencer.Plan(archive.Job, archive);
                PlanRules.Check(plan);
                ThreadPainter.Picture(plan.ToFile(archive.Job.Title), 480, 360, archive.Job.Cloth.Colour);
                JobDocument.ToJson(archive.Job).ShouldNotBeEmpty();
                break;
            case "roster" or "workbook":
                RosterTable.Write(RosterTable.Read(file.Bytes, "Names").Roster).ShouldNotBeEmpty();
                break;
            case "chart":
                ChartTable.Read(TypedTable.Read(file.Bytes, ChartTable.MostThreads + 1), "Maker", "Range");
                break;
            case "rack":
                RackList.Write(RackList.Read(TypedTable.Read(file.Bytes, RackList.MostLines), new KnownThreads(MadeUpCharts.All)).Cones).ShouldNotBeEmpty();
                break;
            case "letters":
                var (set, letters) = LetterSetArchive.Read("Letters", LetterSetFiles.OfZip(file.Bytes));
                LetterSetArchive.ToBytes(LetterSet.Of(set).Source, letters).ShouldNotBeEmpty();
                break;
            case "font":
                using (var font = FontFile.Read(file.Bytes)) font.Shape("Tarn");
                break;
            case var cut when CutFormats.All.FirstOrDefault(f => f.Kind.Extension[1..] == cut) is { } format && file.Name.StartsWith("pieces", StringComparison.Ordinal):
                format.Write(format.Read(file.Bytes, "Pieces")).ShouldNotBeEmpty();
                break;
            default:
                Importer.Read(file.Name, file.Bytes);
                break;
        }
    }
}

/// <summary>How many cases are tried, and from which seed.</summary>
public static class Fuzz
{
    /// <summary>The seed, another by <c>THIMBLE_FUZZ_SEED</c>.</summary>
    public static int Seed { get; } = int.TryParse(Environment.GetEnvironmentVariable("THIMBLE_FUZZ_SEED"), out var seed) ? seed : 20_261;

    /// <summary>As many as <c>THIMBLE_FUZZ</c> says, or those of the suite.</summary>
    public static int CasesOr(int inTheSuite) => int.TryParse(Environment.GetEnvironmentVariable("THIMBLE_FUZZ"), out var cases) ? cases : inTheSuite;

    /// <summary>Keeps a file that did harm, to be looked at.</summary>
    public static void Keep(DamagedFile file, int number)
    {
        var folder = Directory.CreateDirectory(Path.Combine(Path.GetTempPath(), "thimble-fuzz")).FullName;
        File.WriteAllBytes(Path.Combine(folder, $"{Seed}-{number}-{file.Name}"), file.Bytes);
    }
}
