using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Scenario;
using static EvenThimble.App.Tests.Alphabets;

namespace EvenThimble.App.Tests;

/// <summary>Alphabets that came as stitch files: baselines, spacing, threads and sizes, on Orbit Block and on alphabets made in other ways.</summary>
public class LetterSetTests(ITestOutputHelper says)
{
    private const double BaselineWithin = 0.2;
    private const string Words = "HALDEN Larkmoor observatory gypsy JUMPING Qf 0123456789";
    private static readonly Lazy<LetterSet> Orbit = new(() => LetterSet.Of(new(OrbitBlock.Name, [.. OrbitBlock.Files.Select(f => new SetFile(f.FileName, f.Draw()))])));

    // What the tests say of a file that was put anywhere.
    private static Point Anywhere(Box box, Random random) => new((random.NextDouble() - 0.5) * 40, (random.NextDouble() - 0.5) * 40);

    private static Point Middle(Box box, Random random) => box.Middle;

    [Theory]
    [InlineData("Archivo", "anywhere")]
    [InlineData("Archivo", "middle")]
    [InlineData("Archivo", "origin")]
    [InlineData("Bitter", "anywhere")]
    [InlineData("Graduate", "middle")]
    [InlineData("Saira Condensed", "anywhere")]
    [InlineData("Fredoka", "middle")]
    public void Letters_are_put_on_their_baseline_wherever_their_files_have_them(string font, string where)
    {
        var letters = Make(new(font, 25) { Origin = where switch { "anywhere" => Anywhere, "middle" => Middle, _ => (_, _) => Point.Zero } });
        var found = SetOf(letters).Sizes.Single().Letters;
        var all = letters.Select(l => (l.Character, Off: found[l.Character].BaselineY - l.BaselineY)).ToList();

        // Fonts with round ends reach below their baseline with every letter: a shift of all is none.
        var shift = all.Select(l => l.Off).Order().ElementAt(all.Count / 2);
        var off = all.Select(l => (l.Character, Off: l.Off - shift)).OrderByDescending(l => Math.Abs(l.Off)).ToList();
        says.WriteLine($"{font} {where}: {string.Join(", ", off.Take(8).Select(l => $"{l.Character} {l.Off:0.00}"))}");

        // Of a font all of whose ends are round, what is flat cannot be told from what is round.
        off.Where(l => Math.Abs(l.Off) > (font == "Fredoka" ? 1.5 : 1) * BaselineWithin).ShouldBeEmpty();
    }

    [Fact]
    public void Letters_that_are_off_the_baseline_of_the_others_are_noticed_and_put_on_it()
    {
        var set = OrbitSet();
        var letters = set.Sizes.Single().Letters;
        letters.Values.Where(l => l.OffMm != 0).Select(l => l.Character).Order().ShouldBe(["7", "D", "N", "r"], ignoreOrder: true);
        letters["D"].OffMm.ShouldBe(1.6, BaselineWithin);
        letters["N"].OffMm.ShouldBe(-1.1, BaselineWithin);
        letters["g"].BelowMm.ShouldBeGreaterThan(5, "a descender reaches below");
        letters.Values.Where(l => l.OddThread).Select(l => l.Character).ShouldBe(["L"]);
        foreach (var letter in letters.Values.Where(l => "HEIZTLxnmr".Contains(l.Character))) letter.BelowMm.ShouldBe(0, BaselineWithin, letter.Character);
    }

    [Theory]
    [InlineData("orbit", "HH", "HA AL HE EN ON OO HO DE NI RO CO SE BE MU UN IH GO PE RS KE AV VA LT TA AT LV TO OT LE AY")]
    [InlineData("Archivo", "HH", "HA AL HE EN ON OO HO DE NI RO CO SE BE MU UN IH GO PE RS KE AV VA LT TA AT LV TO OT LE AY")]
    [InlineData("orbit", "nn", "no oo en an so ne ea os ar re as es oe er")]
    [InlineData("Archivo", "nn", "no oo en an um so nu me xe ax zo ov uz mo es ac")]
    public void White_between_letters_is_even(string of, string straight, string pairs)
    {
        var set = of == "orbit" ? OrbitSet() : SetOf(Make(new(of, 25) { Origin = Anywhere }));
        var usual = WhiteOf(set, straight, straight);
        var whites = pairs.Split(' ').Select(p => (Pair: p, White: WhiteOf(set, p, straight) / usual)).ToList();
        says.WriteLine(string.Join(", ", whites.Select(w => $"{w.Pair} {w.White:0.00}")));
        whites.Where(w => Math.Abs(w.White - 1) > 0.15).ShouldBeEmpty();
    }

    [Fact]
    public void At_its_own_size_a_letter_keeps_every_stitch_of_its_file()
    {
        var set = OrbitSet();
        var content = LetterSetContent.Lay(new("HALDEN") { CapitalMm = 25.3 }, set, new(null, Joined: false));
        content.CapitalMm.ShouldBe(set.Sizes[0].CapitalMm, 1e-6, "a height typed to a tenth means that of the files");
        var plan = PlanOf(content, set);
        foreach (var (part, letter) in plan.Parts.Zip("HALDEN"))
        {
            var file = set.Sizes[0].Letters[letter.ToString()].Design.Stitches;
            var sewn = Needles(plan.Records, part.First, part.Count);
            var came = Needles(file, 0, file.Count);
            sewn.Count.ShouldBe(came.Count);
            var by = sewn[0] - came[0];

            // A plan keeps places to a millionth of a mm: half of that either way, across and down, at the stitch and at the one that all are compared with.
            sewn.Zip(came).Max(p => (p.First - p.Second).DistanceTo(by)).ShouldBeLessThan(1.5e-6);
        }
    }

    [Fact]
    public void One_thread_makes_one_part_and_two_thread_letters_stay_two_coloured()
    {
        var set = SetOf(Make(new("Archivo", 22) { InTwoThreads = true, Decimals = 1, Origin = Middle }, "HALDENorbit"));
        set.Sizes[0].Letters.Values.ShouldAllBe(l => !l.OddThread);
        var content = LetterSetContent.Lay(new("HALDEN"), set, new(null, Joined: true));
        PlanOf(content, set).Parts.Select(p => p.Thread).ShouldBe([Blue, Gold], "as few parts as can be");
        LetterSetContent.Lay(new("HALDEN"), set, new(null, Joined: false)).Parts.Length.ShouldBe(12);
        var one = PlanOf(LetterSetContent.Lay(new("HALDEN"), set, new(Gold, Joined: true)), set);
        one.Parts.Single().Thread.ShouldBe(Gold);
        one.ThreadChanges.ShouldBe(0);
    }

    [Fact]
    public void Letters_of_a_script_meet_at_the_height_at_which_they_join()
    {
        const double joins = 3.2;
        IEnumerable<Point[]> Joint(string c, Box box) => char.IsLower(c, 0) ? [[new(box.MinX - 2, -joins - 0.5), new(box.MaxX + 2, -joins - 0.5), new(box.MaxX + 2, -joins + 0.5), new(box.MinX - 2, -joins + 0.5)]] : [];
        foreach (var where in new Func<Box, Random, Point>[] { (_, _) => Point.Zero, Anywhere })
        {
            var letters = Make(new("Dancing Script", 20) { Origin = where, More = Joint });
            var set = SetOf(letters);
            set.FontOf(set.Sizes[0]).Font.Joins.ShouldBeTrue();
            var content = LetterSetContent.Lay(new("constellation"), set, new(null, Joined: false));
            var boxes = PlanOf(content, set).Parts.Select(p => p.Bounds).ToList();
            foreach (var (left, right) in boxes.Zip(boxes.Skip(1))) (right.MinX - left.MaxX).ShouldBeInRange(-1, 0, "they touch and lie little over each other");
            var heights = content.Letters.Select(l => l.At.Place(new(0, letters.First(m => m.Character == l.Text).BaselineY - joins)).Y).ToList();
            (heights.Max() - heights.Min()).ShouldBeLessThan(BaselineWithin);
        }
    }

    [Fact]
    public void Small_letters_stand_right_beside_tall_decorated_capitals()
    {
        static IEnumerable<Point[]> Ornament(string c, Box box) => char.IsUpper(c, 0)
            ? [[.. Enumerable.Range(0, 60).Select(i => new Point(box.MinX - 3 + (3 * Math.Cos(i / 9.5)), box.MaxY + 4 + (3 * Math.Sin(i / 9.5)) - (c[0] % 5)))]] : [];
        var letters = Make(new("Libre Baskerville", 14) { Times = c => char.IsUpper(c, 0) ? 2.6 : 1, More = Ornament });
        var set = SetOf(letters);
        foreach (var letter in letters) Math.Abs(set.Sizes[0].Letters[letter.Character].BaselineY - letter.BaselineY).ShouldBeLessThan(BaselineWithin, letter.Character);
        set.Sizes[0].CapitalMm.ShouldBeGreaterThan(30);
    }

    [Fact]
    public void The_nearest_of_several_sizes_is_used_and_what_it_lacks_is_taken_from_the_next()
    {
        var letters = new[] { 12.0, 25, 50 }.SelectMany(mm => Make(new("Archivo", mm) { NameOf = c => $"{mm:0}mm/{c}{(char.IsLower(c, 0) ? "_lower" : string.Empty)}.evth" }, mm == 25 ? "HALDE" : "HALDEN")).ToList();
        var set = SetOf(letters);
        set.Sizes.Select(s => Math.Round(s.CapitalMm)).ShouldBe([12, 25, 50]);
        Times(new("HALDE") { CapitalMm = 14 }).ShouldAllBe(t => t > 1 && t < 1.25);
        Times(new("HALDE") { CapitalMm = 45 }).ShouldAllBe(t => t > 0.85 && t < 1);
        Times(new("HALDE") { CapitalMm = 20, WidthMm = 230 }).ShouldAllBe(t => t < 1.3, "a width too chooses the nearest size");
        var content = LetterSetContent.Lay(new("HALDEN") { CapitalMm = 25 }, set, new(null, Joined: false));
        content.Missing.ShouldBeEmpty();
        PlanOf(content, set).Parts.Select(p => p.Bounds.Height).ShouldAllBe(h => Math.Abs(h - 25) < 1.2);

        IEnumerable<double> Times(LetteringWish wish) => LetterSetContent.Lay(wish, set, new(null, Joined: false)).Letters.Select(l => l.At.Size.Across);
    }

    [Fact]
    public void At_another_size_letters_are_respaced_at_an_exact_width()
    {
        var set = OrbitSet();
        var content = LetterSetContent.Lay(new("HALDEN") { WidthMm = 60 }, set, new(set.Sizes[0].Thread, Joined: true));
        var plan = PlanOf(content, set);
        plan.Bounds.Width.ShouldBe(60, 0.3);
        var whole = PlanOf(LetterSetContent.Lay(new("HALDEN") { CapitalMm = 25.3 }, set, new(set.Sizes[0].Thread, Joined: true)), set);
        ((double)plan.StitchCount / whole.StitchCount).ShouldBeInRange(0.3, 0.75, "the count follows the size");
    }

    [Fact]
    public void A_missing_letter_is_named_and_its_place_left()
    {
        var set = SetOf(Make(new("Archivo", 25), "HALDE"));
        var content = LetterSetContent.Lay(new("HALDEN"), set, new(null, Joined: true));
        content.Missing.ShouldBe(["N"]);
        var job = new AddLettering(LetterSetContent.Lay(new("HNE"), set, new(null, Joined: true)), Placement.AsItCame).Apply(Job.New(StandInMachines.Catalogue.HoopFor(default)));
        var plan = Sequencer.Plan(job, new Held(set));
        plan.Bounds.Width.ShouldBeGreaterThan(PlanOf(LetterSetContent.Lay(new("HE"), set, new(null, Joined: true)), set).Bounds.Width + 10);
        Inspector.Inspect(job, plan, StandInMachines.Catalogue).ShouldContain(f => f.Says.Contains("has no N"));
        Should.Throw<EditRefusedException>(() => LetterSetContent.Lay(new("NNN"), set, new(null, Joined: true))).Message.ShouldContain("none of these characters: N");
    }

    [Fact]
    public void Each_letter_of_a_joined_word_can_still_be_moved_turned_and_sized()
    {
        var set = OrbitSet();
        var wish = new LetteringWish("HAL");
        var moved = LetterSetContent.Lay(wish with { Nudges = LetterNudges.Empty.With(1, new(0.2, -0.1, 10, 1.2)) }, set, new(null, Joined: true));
        var as_ = LetterSetContent.Lay(wish, set, new(null, Joined: true));
        moved.Letters[0].ShouldBe(as_.Letters[0]);
        moved.Letters[2].ShouldBe(as_.Letters[2]);
        moved.Letters[1].At.Size.Across.ShouldBe(as_.Letters[1].At.Size.Across * 1.2, 1e-6);
        moved.Letters[1].At.TurnDegrees.ShouldBe(10, 1e-6);

        // Where it lies, it lies about its own middle.
        var middle = set.Sizes[0].Letters["A"].Ink.Box.Middle;
        moved.Letters[1].At.Place(middle).DistanceTo(as_.Letters[1].At.Place(middle) + new Point(0.2 * wish.CapitalMm, -0.1 * wish.CapitalMm)).ShouldBeLessThan(0.02);
    }

    [Fact]
    public void What_is_put_right_about_a_letter_moves_it_and_no_other()
    {
        var source = OrbitSet().Source;
        var path = source.Files.First(f => f.Path.EndsWith("_A.evth", StringComparison.Ordinal)).Path;
        var (before, raised, aside) = (Lay(LetterSet.Of(source)), Lay(LetterSet.Of(source.With(path, new() { RaisedMm = 2 }))), Lay(LetterSet.Of(source.With(path, new() { LeftMm = 3 }))));
        (raised[1].Y - raised[0].Y - (before[1].Y - before[0].Y)).ShouldBe(-2, 0.02);
        (aside[1].X - aside[0].X - (before[1].X - before[0].X)).ShouldBe(3, 0.05);
        (aside[2].X - aside[1].X).ShouldBe(before[2].X - before[1].X, 0.05);
        LetterSet.Of(source.With(path, new() { Character = "Ä" })).Sizes[0].Letters.Keys.ShouldContain("Ä");
        Should.Throw<EditRefusedException>(() => source.With(path, new() { Character = "AB" }));
        LetterSet.Of(source.With(path, new() { LeftOut = true })).Sizes[0].Letters.Keys.ShouldNotContain("A");
        var odd = source.Files.First(f => f.Path.EndsWith("_L.evth", StringComparison.Ordinal)).Path;
        LetterSet.Of(source.With(odd, new() { UsualThread = true })).Sizes[0].Letters["L"].MainThread.ShouldBe(LetterSet.Of(source).Sizes[0].Thread);

        static List<Point> Lay(LetterSet set) => [.. LetterSetContent.Lay(new("HAL") { CapitalMm = 25.3, Align = LetterAlign.Left }, set, new(null, Joined: false)).Letters.Select(l => new Point(l.At.X, l.At.Y))];
    }

    [Fact]
    public void Two_files_for_one_letter_a_file_without_stitches_and_one_that_names_none_are_told()
    {
        var letters = Make(new("Archivo", 20), "ABC");
        var set = LetterSet.Of(new("Odd",
        [
            .. letters.Select(l => l.File), new("a copy/A.evth", letters[0].File.Design) { }, new("D.evth", new("D", StitchBlob.None, [])), new("sampler of all.evth", letters[1].File.Design), new("E.evth", null, "The file is empty."),
        ]));
        var told = set.Files.Where(f => f.Trouble is not null).ToDictionary(f => f.File.Path, f => f.Trouble!);
        told["D.evth"].ShouldContain("no stitches");
        told["sampler of all.evth"].ShouldContain("tells no letter");
        told["E.evth"].ShouldContain("empty");
        set.Sizes.SelectMany(s => s.Letters.Keys).Distinct().ShouldBe(["A", "B", "C"]);
        Should.Throw<EditRefusedException>(() => LetterSet.Of(new("None", [new("sampler of all.evth", letters[1].File.Design)]))).Message.ShouldContain("Name each after its letter");
    }

    [Fact]
    public void A_text_of_a_set_is_laid_on_a_ring_and_is_not_bent()
    {
        var set = OrbitSet();
        var content = LetterSetContent.Lay(new("OPEN DAY") { CapitalMm = 10, Course = new LetterCourse.OnRing(90) }, set, new(null, Joined: true));
        var bounds = PlanOf(content, set).Bounds;
        Math.Max(bounds.Width, -2 * bounds.MinY).ShouldBeInRange(88, 91.5);
        Should.Throw<EditRefusedException>(() => LetterSetContent.Lay(new("OPEN") { Bend = new(BendShape.All[0], 0.5) }, set, new(null, Joined: true))).Message.ShouldContain("cannot be bent");
    }

    internal static LetterSet OrbitSet() => Orbit.Value;

    internal static SewingPlan PlanOf(LetterSetContent content, LetterSet set) =>
        Sequencer.Plan(new AddLettering(content, Placement.AsItCame).Apply(Job.New(StandInMachines.Catalogue.HoopFor(default)) with { Cloth = Cloth.Of(ClothProfiles.Cotton) }), new Held(set));

    /// <summary>White between two letters as they are sewn, mm² to the mm of a capital: in each row of their height what lies between them, no deeper into either than two thirds of the gap of two that are straight.</summary>
    private static double WhiteOf(LetterSet set, string pair, string straightPair)
    {
        var plan = PlanOf(LetterSetContent.Lay(new(pair), set, new(null, Joined: false)), set);
        var straight = PlanOf(LetterSetContent.Lay(new(straightPair), set, new(null, Joined: false)), set);
        var deep = 0.67 * (straight.Parts[1].Bounds.MinX - straight.Parts[0].Bounds.MaxX);
        var (a, b) = (Edge(plan.Parts[0], right: true), Edge(plan.Parts[1], right: false));
        var (right, left) = (plan.Parts[0].Bounds.MaxX, plan.Parts[1].Bounds.MinX);
        return Enumerable.Range(0, a.Length).Average(i => left - right + Math.Min(right - a[i], deep) + Math.Min(b[i] - left, deep));

        double[] Edge(PlannedPart part, bool right)
        {
            var (foot, rows) = (part.Bounds.MaxY, 40);
            var edge = Enumerable.Repeat(right ? double.NegativeInfinity : double.PositiveInfinity, rows).ToArray();
            for (var i = part.First + 1; i < part.End; i++)
            {
                if (plan.Records.Kinds[i] != StitchKind.Stitch || plan.Records.Kinds[i - 1] != StitchKind.Stitch) continue;
                for (var t = 0.0; t <= 1; t += 0.05)
                {
                    var p = plan.Records.At(i - 1).Toward(plan.Records.At(i), t);
                    var row = Math.Clamp((int)((foot - p.Y) / part.Bounds.Height * rows), 0, rows - 1);
                    edge[row] = right ? Math.Max(edge[row], p.X) : Math.Min(edge[row], p.X);
                }
            }

            return edge;
        }
    }

    private static List<Point> Needles(StitchBlob blob, int first, int count) => [.. Enumerable.Range(first, count).Where(i => blob.Kinds[i] == StitchKind.Stitch).Select(blob.At)];

    internal sealed class Held(LetterSet set) : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => set.Files.Select(f => f.File.Design?.Stitches).OfType<StitchBlob>().First(b => b.Hash == hash);
    }
}
