using System.Text.RegularExpressions;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Garments;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Names;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using Shouldly;
using Xunit;

namespace EvenThimble.App.Tests.Names;

/// <summary>The files that a roster is sewn with, read again and looked at from outside: every name in its slot, nobody missing or twice, the design the same in all.</summary>
public sealed class NameFilesTests(ITestOutputHelper says)
{
    private readonly Volunteers _volunteers = new();

    [Theory]
    [InlineData("Archivo")]
    [InlineData("Dancing Script")]
    [InlineData("Libre Baskerville")]
    [InlineData("Lark Small")]
    [InlineData("Graduate")]
    public void Every_name_lies_in_its_slot_to_a_tenth_of_a_millimetre(string font)
    {
        var roll = Named(font);
        var job = _volunteers.Job(roll, font);
        var of = _volunteers.Files(job, StandInMachines.Wren130, "130x180");
        var files = of.All(SewingWay.EachGarment, SewnPart.NamesOnly).ToList();
        (files.Count + of.LeftOut.Count).ShouldBe(roll.People.Length);
        files.Count.ShouldBeGreaterThan(10);
        var worst = 0.0;
        foreach (var file in files)
        {
            var read = Written(file, StitchFileKind.Evth2);
            var name = file.Garments.Single().Name;
            var box = BoxOf(read);
            var over = new[] { box.Width - 60, box.Height - 9, Math.Abs(box.Middle.X) + (box.Width / 2) - 30, Math.Abs(box.Middle.Y - Volunteers.SlotMiddle.Y) + (box.Height / 2) - 4.5 }.Max();
            worst = Math.Max(worst, over);
            over.ShouldBeLessThan(0.1, $"{name.Text}: {box}");

            // What could be larger is: the letters fill the slot one way or the other.
            var content = name.Slots.Single().Content!;
            (box.Width > 58.5 || box.Height > 7.9 || (content.Fit & (SlotFit.Narrower | SlotFit.Smaller)) == 0).ShouldBeTrue($"{name.Text}: {box}, {content.Fit}");
            (content.CapitalMm < _volunteers.Find(content.Font)!.Measure.SmallestGoodMm - 0.01).ShouldBe(name.Flags.HasFlag(NameFlags.BelowGood), name.Text);
        }

        says.WriteLine($"{font}: over by {worst:0.000} mm at most");

        static Roster Named(string font) => Volunteers.Made(font == "Lark Small" ? 12 : 16, 11) is var made ? Volunteers.TheTwelve.People.Aggregate(made, (r, p) => r.Adding(p.Values)) : null!;
    }

    [Fact]
    public void The_design_is_the_same_in_all_files_and_everybody_is_in_one()
    {
        var job = _volunteers.Job(Volunteers.TheTwelve);
        var files = _volunteers.Files(job, StandInMachines.Wren130, "130x180");
        var design = Points(Written(files.All(SewingWay.EachGarment, SewnPart.DesignOnly).Single(), StitchFileKind.Evth1)).ToList();
        var written = files.All(SewingWay.EachGarment, SewnPart.All).ToList();
        foreach (var file in written)
        {
            var read = Written(file, StitchFileKind.Evth1);
            Points(read).Take(design.Count).ShouldBe(design);
            file.Stem.Length.ShouldBeLessThanOrEqualTo(16);
            read.Title.ShouldBe(Core.Text.Titles.Plain(file.Garments[0].Name.Text, 16));
            file.InTrouble.ShouldBeFalse(string.Join(' ', file.Findings.Select(f => f.Says)));
        }

        written.Select(f => f.Stem).Distinct(StringComparer.OrdinalIgnoreCase).Count().ShouldBe(12);
        written.Select(f => f.Garments.Single().Name.Text).ShouldBe(Volunteers.Twelve.Split('\n'));

        // Design and names on two machines lie where they lie together.
        foreach (var (name, both) in files.All(SewingWay.EachGarment, SewnPart.NamesOnly).Zip(written))
            Points(Written(both, StitchFileKind.Evth1)).Skip(design.Count).ShouldBe(Points(Written(name, StitchFileKind.Evth1)));
    }

    [Theory]
    [InlineData(12, 8)]
    [InlineData(12, 5)]
    [InlineData(9, 8)]
    public void In_rounds_each_name_is_sewn_once_with_one_head_on(int people, int heads)
    {
        var roster = Volunteers.TheTwelve with { People = Volunteers.TheTwelve.People[..people] };
        var job = _volunteers.Job(roster);
        var rounds = _volunteers.Files(job, StandInMachines.StarlingEight, "360x200").All(SewingWay.Rounds, SewnPart.All, heads).ToList();
        rounds.Count.ShouldBe((people + heads - 1) / heads);
        var sewn = new List<string>();
        foreach (var round in rounds)
        {
            var read = Written(round, StitchFileKind.Evth2);
            var (head, inRound) = ((int?)null, 0);
            foreach (var (message, points) in ByStops(read))
            {
                if (Regex.Match(message, @"^head (\d+) only: (.+)$") is { Success: true } only)
                {
                    head = int.Parse(only.Groups[1].Value);
                    head.ShouldBe(++inRound);
                    sewn.Add(only.Groups[2].Value);

                    // Nothing but the name is sewn while one head is on.
                    points.ShouldNotBeEmpty();
                    points.Where(p => Math.Abs(p.Y - Volunteers.SlotMiddle.Y) >= 4.6 || Math.Abs(p.X) >= 30.1).ShouldBeEmpty();
                }
                else
                {
                    message.ShouldBe(round.Garments.Length == 8 ? "all heads: Dome crest" : round.Garments.Length == 1 ? "the design on head 1 only: Dome crest" : $"heads 1 to {round.Garments.Length} only: Dome crest");
                    points.Where(p => p.Y >= 47.7).ShouldBeEmpty();
                }
            }
        }

        sewn.ShouldBe(Volunteers.Twelve.Split('\n').Take(people));
    }

    [Fact]
    public void Names_are_flagged_for_what_is_seen_in_their_stitches()
    {
        foreach (var (height, width) in new[] { (9.0, 60.0), (6.0, 46.0), (30.0, 200.0) })
        {
            var roll = NameRoll.Of(_volunteers.Job(Volunteers.TheTwelve, width: width, height: height), _volunteers).Stitched(_volunteers, new());
            foreach (var name in roll.All)
            {
                // Counted here by itself: between the ties of each letter.
                var plan = roll.Plan(name, _volunteers, new());
                var lengths = plan.Parts.SelectMany(p => Enumerable.Range(p.First + 8, Math.Max(0, p.Count - 16)).Where(i => plan.Records.Kinds[i] == StitchKind.Stitch && plan.Records.Kinds[i - 1] == StitchKind.Stitch).Select(i => plan.Records.At(i).DistanceTo(plan.Records.At(i - 1)))).ToList();
                var share = lengths.Count(l => l < 0.399) / (double)Math.Max(1, lengths.Count);
                if (share is < 0.04 or > 0.06) name.Flags.HasFlag(NameFlags.ShortStitches).ShouldBe(share > 0.05, $"{name.Text} at {height}: {share:0.000}");
            }

            says.WriteLine($"{height} mm: {roll.All.Count(n => n.Flags.HasFlag(NameFlags.ShortStitches))} of 12 with short stitches");
            var median = roll.All.Select(n => n.Slots[0].Content!.CapitalMm).Order().Skip(5).Take(2).Average();
            foreach (var name in roll.All) name.Flags.HasFlag(NameFlags.OffMedian).ShouldBe(Math.Abs(name.Slots[0].Content!.CapitalMm - median) > 0.15 * median, name.Text);
        }
    }

    [Fact]
    public void One_file_stops_before_each_garment_and_counts_those_of_one_person()
    {
        var roster = Volunteers.TheTwelve.With(new PersonId(2), p => p with { Quantity = 2, Garment = "shirt M" });
        var file = _volunteers.Files(_volunteers.Job(roster), StandInMachines.Heron200, "130x180").All(SewingWay.OneFile, SewnPart.NamesOnly).Single();
        var stops = ByStops(Written(file, StitchFileKind.Evth2)).ToList();
        stops.Select(s => s.Message).Take(4).ShouldBe(["1: Ottoline Marsh", "2: Bram Tull, shirt M, 1 of 2", "2: Bram Tull, shirt M, 2 of 2", "3: Ilse Quarrie"]);
        stops.Count.ShouldBe(13);
        stops[1].Points.ShouldBe(stops[2].Points);
    }

    [Fact]
    public void A_roster_of_five_hundred_is_sewn_whole()
    {
        var roster = Volunteers.Made(500, 3, rightToLeft: true);
        var job = _volunteers.Job(roster, height: 8);
        var files = _volunteers.Files(job, StandInMachines.Wren130, "130x180");
        var listed = files.Listed(SewingWay.EachGarment, SewnPart.All, 1);

        // The font has no Hebrew: those are told, and in no file.
        var left = files.LeftOut.Select(l => l.Number).ToHashSet();
        left.ShouldBe(roster.People.Select((p, n) => (p, n)).Where(p => p.p.Values[0].Any(c => c is >= '\u0590' and <= '\u05FF')).Select(p => p.n + 1).ToHashSet());
        files.LeftOut.ShouldAllBe(l => l.Slots[0].Refused!.Contains("Archivo has no"));
        listed.Select(l => l.Garments.Single().Name.Number).ShouldBe(Enumerable.Range(1, 500).Where(n => !left.Contains(n)));
        listed.Select(l => l.Stem).Distinct(StringComparer.OrdinalIgnoreCase).Count().ShouldBe(listed.Count);
        listed.ShouldAllBe(l => l.Stem.Length <= 16 && Core.Text.Titles.IsPlain(l.Stem));
        foreach (var (_, garments) in listed)
        {
            var name = garments.Single().Name;
            var content = name.Slots.Single().Content!;
            var box = content.Shapes.Aggregate(Box.Empty, (b, s) => b.With(s.Shape.Moved(s.At.Place).Bounds));
            box.Grown(-0.05).ShouldSatisfyAllConditions(() => box.Width.ShouldBeLessThan(60.01), () => box.Height.ShouldBeLessThan(8.01));
            name.Flags.HasFlag(NameFlags.BelowGood).ShouldBe(content.CapitalMm < _volunteers.Find(content.Font)!.Measure.SmallestGoodMm - 0.005);
            content.Wish.Condense.ShouldBeGreaterThanOrEqualTo(0.85 - 1e-6);
            string.Concat(content.Shapes.Select(s => s.Name)).ShouldBe(name.Slots[0].Text.Replace(" ", string.Empty));
        }

        // A sample is written and read.
        foreach (var (stem, garments) in listed.Where((_, n) => n % 61 == 0)) Written(files.Made(stem, garments, SewingWay.EachGarment, SewnPart.NamesOnly), StitchFileKind.Evth1).Title.ShouldBe(Core.Text.Titles.Plain(garments[0].Name.Text, 16));
    }

    private static StitchFile Written(GarmentFile file, StitchFileKind kind) => StitchFormats.Read(StitchFormats.Write(kind, file.ToFile()), file.Stem + kind.Extension).File;

    private static Box BoxOf(StitchFile file) => Box.Around(Points(file));

    private static IEnumerable<Point> Points(StitchFile file) => Enumerable.Range(0, file.Stitches.Count).Where(i => file.Stitches.Kinds[i] == StitchKind.Stitch).Select(file.Stitches.At);

    private static IEnumerable<(string Message, List<Point> Points)> ByStops(StitchFile file)
    {
        var (message, points) = (string.Empty, new List<Point>());
        for (var i = 0; i < file.Stitches.Count; i++)
        {
            if (file.Stitches.Kinds[i] == StitchKind.Stop)
            {
                if (message.Length > 0 || points.Count > 0) yield return (message, points);
                (message, points) = (file.Stitches.Messages.GetValueOrDefault(i, string.Empty), []);
            }
            else if (file.Stitches.Kinds[i] == StitchKind.Stitch)
            {
                points.Add(file.Stitches.At(i));
            }
        }

        yield return (message, points);
    }
}
