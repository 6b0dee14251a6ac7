using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using FsCheck.Xunit;
using Microsoft.Data.Sqlite;

namespace EvenThimble.App.Tests;

/// <summary>What revisions cost on the disk, which of them stay, and what goes with them.</summary>
public sealed class RevisionsTests : WithDatabase
{
    private const int ManyParts = 4_096;

    // The file grows by whole pages of 4 kB.
    private const long MostBytes = 20 * 1024;

    private static readonly SewingThread[] Threads = [.. Enumerable.Range(0, 12).Select(i => new SewingThread("Fenlight", $"{2000 + i}", $"Thread {i}", Rgb.FromInt(i * 0x10305)))];

    [Fact]
    public void An_edit_of_a_job_of_4096_parts_costs_at_most_20_kB_on_the_disk()
    {
        var random = new Random(7);
        var id = Jobs.Create(Job.FromDesign(null, Scattered(random), StandInMachines.Catalogue.UsualHoop), "Opened", [Scattered(new(7)).Stitches]);
        HashSet<PartId> Some(int count) => [.. Enumerable.Range(0, count).Select(_ => new PartId(random.Next(1, ManyParts + 1)))];
        var all = Jobs.Find(id)!.Job.Order.Select(p => p.Id).ToHashSet();
        var ordered = Jobs.Find(id)!.Job.Order.Select(p => p.Id).OrderBy(_ => random.Next()).ToArray();
        JobEdit[] edits =
        [
            new RenameJob("many"), new Recolour(Some(1), Threads[3]), new ShiftParts(Some(1), 3.21, 4.56), new ShiftParts(Some(300), 1.17, -2.4), new TurnParts(Some(200), 33.3, new(1, 2)),
            new HideParts(Some(500), true), new Recolour(all, Threads[5]), new NameParts(Some(9), "lights"), new PlaceInOrder(Some(40), 17),
            new ShiftParts(all, 0.37, 1.91), new TurnParts(all, 12.5, new(3, 4)), new ResizeParts(all, 0.93, 0.93, Point.Zero), new Reorder([.. ordered], "Mixed"), new LockParts(all, true),
            new RemoveParts(Some(100)),
        ];
        foreach (var edit in edits)
        {
            var before = Size();
            var state = Jobs.Find(id)!;
            var after = Jobs.Apply(id, state.Version, edit);
            after.Version.ShouldBe(state.Version + 1, edit.ToString());
            (Size() - before).ShouldBeLessThanOrEqualTo(MostBytes, edit.Label(state.Job));
            Restart();
            Jobs.Find(id)!.Job.ShouldBe(after.Job);
        }
    }

    [Fact]
    public void A_point_moved_in_a_drawing_of_200000_points_does_not_store_the_drawing_again()
    {
        var random = new Random(11);
        var shapes = Enumerable.Range(0, 100).Select(i => new NewShape($"shape {i}", Ragged(random, 2_000), new(StitchWay.Run), Threads[0], new(i, i, 0))).ToArray();
        var id = Jobs.Create(new AddShapes("drawing", [.. shapes]).Apply(Job.New(StandInMachines.Catalogue.UsualHoop)), "Brought a drawing");
        var whole = Size();
        whole.ShouldBeGreaterThan(2_000_000);
        var part = Jobs.Find(id)!.Job.Order[40];
        var path = part.Drawn!.Shape.Paths[0];
        var moved = part.Drawn.Shape with { Paths = [path with { Nodes = path.Nodes.SetItem(9, path.Nodes[9] with { At = new(1, 2) }) }] };
        var stored = Jobs.Apply(id, 1, new Reshape(part.Id, moved, "Moved a point"));
        (Size() - whole).ShouldBeLessThan(whole / 50);
        Restart();
        Jobs.Find(id)!.Job.ShouldBe(stored.Job);
        Jobs.GoTo(id, 2, 0).Job.Order[40].Drawn!.Shape.Paths[0].Nodes[9].ShouldBe(path.Nodes[9]);
    }

    [Fact]
    public void Of_old_revisions_the_start_and_the_ends_of_sittings_stay_and_the_newest_200_all()
    {
        var id = NewJob();
        var version = 1L;
        for (var sitting = 0; sitting < 6; sitting++)
        {
            for (var i = 0; i < 60; i++)
            {
                Clock.Goes(TimeSpan.FromMinutes(1));
                version = Jobs.Apply(id, version, new RenameJob($"{sitting}.{i}")).Version;
            }

            Clock.Goes(TimeSpan.FromHours(2));
        }

        Restart();
        var labels = Jobs.History(id).Select(h => h.Label).Reverse().ToList();
        string Said(int sitting, int i) => $"Named the job “{sitting}.{i}”";
        labels[^200..].ShouldBe(Enumerable.Range(160, 200).Select(n => Said(n / 60, n % 60)));
        labels[..3].ShouldBe(["Opened Ringed planet", Said(0, 59), Said(1, 59)]);
        labels.Count.ShouldBeInRange(203, 243);

        // Every line that is left leads to its own state, and undo goes from one to the next.
        var stored = Jobs.Find(id)!;
        foreach (var line in Jobs.History(id).SkipLast(1))
        {
            stored = Jobs.GoTo(id, stored.Version, line.Position);
            line.Label.ShouldContain($"“{stored.Job.Title}”");
        }

        stored = Jobs.GoTo(id, stored.Version, stored.Before!.Value);
        (stored.Job.Title, stored.CanUndo).ShouldBe(("Ringed planet", false));
    }

    [Fact]
    public void Stitches_and_shapes_that_nothing_names_any_more_are_given_up_at_the_next_start_and_nothing_else()
    {
        var id = NewJob();
        var shape = new NewShape("line", Ragged(new(3), 20), new(StitchWay.Run), Threads[0], Placement.AsItCame);
        Jobs.Apply(id, 1, new AddShapes("line", [shape]));
        Restart();
        Ask<long>("SELECT count(*) FROM shape").ShouldBe(1);
        Jobs.GoTo(id, 2, 0);
        Restart();
        Ask<long>("SELECT count(*) FROM shape").ShouldBe(1, "it can be redone");
        Jobs.Apply(id, 3, new RenameJob("no line"));
        Restart();
        Ask<long>("SELECT count(*) FROM shape").ShouldBe(0);
        Ask<long>("SELECT count(*) FROM stitch_blob").ShouldBe(1);

        // Stitches that only a job holds stay as long as one of its revisions names them, a deleted job's too.
        var other = MadeUpPart(5, 40);
        var second = Jobs.Create(Job.FromDesign(null, other, StandInMachines.Catalogue.UsualHoop), "Opened", [other.Stitches]);
        Jobs.Delete(second);
        Designs.Delete(Designs.All().Single().Id);
        Restart();
        Ask<long>("SELECT count(*) FROM stitch_blob").ShouldBe(2);
        Jobs.Restore(second);
        Jobs.Find(second)!.Job.Order.ShouldNotBeEmpty();
        new BlobStore(Database).Get(other.Stitches.Hash).Count.ShouldBe(other.Stitches.Count);
    }

    [Property(MaxTest = 300)]
    public bool A_text_comes_back_from_its_difference(byte[] before, byte[] after)
    {
        // Few different lines, so that many are alike and stand in several places.
        static string Text(byte[] lines) => string.Join('\n', lines.Select(l => (l % 7) switch { 0 => string.Empty, 1 => "=0 1", 2 => "+2", var n => $"line {n}" }));
        var (old, wanted) = (Text(before), Text(after));
        return LineDifference.Apply(old, LineDifference.Between(old, wanted)) == wanted;
    }

    [Theory]
    [InlineData("=0 9\n")]
    [InlineData("=-1 1\n")]
    [InlineData("~9 0 a\n")]
    [InlineData("~0 0\n")]
    [InlineData("x\n")]
    [InlineData("=2147483647 2147483647\n")]
    public void A_difference_that_does_not_fit_is_damage_and_not_a_text(string difference) => Should.Throw<InvalidDataException>(() => LineDifference.Apply("a\nb\nc", difference));

    private long Size()
    {
        SqliteConnection.ClearAllPools();
        return new FileInfo(Path.Combine(Folder, "even-thimble.db")).Length;
    }

    private static StitchFile Scattered(Random random)
    {
        var builder = new StitchBuilder();
        var parts = new List<StitchFilePart>();
        for (var i = 0; i < ManyParts; i++)
        {
            var first = builder.Count;
            var at = new Point(Math.Round(random.NextDouble() * 180, 2), Math.Round(random.NextDouble() * 180, 2));
            builder.Jump(at);
            for (var s = 0; s < 5; s++) builder.Stitch(at + new Point(s, s % 2));
            builder.Trim();
            parts.Add(new(first, builder.Count - first, Threads[random.Next(Threads.Length)], PartRole.Decoration));
        }

        return new("Scattered", builder.ToBlob(), [.. parts]);
    }

    private static StitchFile MadeUpPart(int seed, int stitches)
    {
        var (random, builder) = (new Random(seed), new StitchBuilder());
        for (var s = 0; s < stitches; s++) builder.Stitch(new(Math.Round(random.NextDouble() * 30, 2), s));
        return new("Part", builder.ToBlob(), [new(0, stitches, Threads[1], PartRole.Decoration)]);
    }

    private static DrawnShape Ragged(Random random, int points) =>
        new([new([.. Enumerable.Range(0, points).Select(i => new PathNode(new(i * 0.05, random.NextDouble() * 10), NodeKind.Corner))], false)]);
}
