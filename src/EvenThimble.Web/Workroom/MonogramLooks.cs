using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering;

namespace EvenThimble.Web.Workroom;

/// <summary>Small pictures of monograms in thread, in the person's own letters.</summary>
public sealed class MonogramLooks(LetterFonts fonts)
{
    private const int SidePx = 132;
    private const double SizeMm = 48;
    private const long MostPictureBytes = 24L << 20;
    private static readonly SewingThread Letters = new("Fenlight", "0", "indigo", Rgb.FromInt(0x2F4B7C));
    private static readonly SewingThread Frame = new("Fenlight", "1", "weld", Rgb.FromInt(0xB9852B));
    private readonly RecentlyMade<(string Letters, string Layout, string? Frame, string Font), byte[]> _pictures = new(MostPictureBytes, p => p.Length + 200);

    /// <summary>A monogram in thread (PNG); null where there can be none such.</summary>
    public byte[]? PictureOf(string? letters, string layout, string? frame, string font)
    {
        var shown = Initials.Of(Titles.Clean(letters ?? string.Empty), InitialOrder.FamilyInMiddle);
        if (shown.IsEmpty || shown.Length > MonogramWish.MostLetters || MonogramLayout.Find(layout) is not { } laid || fonts.Find(font) is not { } face) return null;
        var around = MonogramFrame.Find(frame);
        return _pictures.Get((string.Concat(shown), laid.Id, around?.Id, face.Name), () =>
        {
            try
            {
                var content = MonogramContent.Drawn(new(shown, laid) { SizeMm = SizeMm, Frame = around, FrameGapMm = 2 }, face, new(StitchWay.Automatic, Letters, Frame));
                var job = new AddMonogram(content, Placement.AsItCame).Apply(Job.New(StandInMachines.Catalogue.HoopFor(default)));
                return ThreadPainter.Picture(Sequencer.Plan(job, NoStitches.Are).ToFile("look"), SidePx, SidePx, ClothProfiles.Cotton.UsualColour, 4);
            }
            catch (EditRefusedException)
            {
                return [];
            }
        }) is { Length: > 0 } picture ? picture : null;
    }

    /// <summary>A corner of a border in thread (PNG); null: there is none such.</summary>
    public byte[]? BorderOf(string frame)
    {
        if (MonogramFrame.Find(frame) is not { } made) return null;
        return _pictures.Get((string.Empty, "border", made.Id, string.Empty), () =>
        {
            const double half = 11;
            var content = BorderContent.Lay(new(made) { DistanceMm = 2 }, [new(1)], [new(-half, -half), new(half, -half), new(half, half), new(-half, half)], Frame, ClothProfiles.Cotton);
            var job = new AddBorder(content, "look").Apply(Job.New(StandInMachines.Catalogue.HoopFor(default)));
            return ThreadPainter.Picture(Sequencer.Plan(job, NoStitches.Are).ToFile("look"), SidePx, SidePx, ClothProfiles.Cotton.UsualColour, 4);
        });
    }

    private sealed class NoStitches : IStitchSource
    {
        public static readonly NoStitches Are = new();

        public StitchBlob Get(BlobHash hash) => throw new KeyNotFoundException("What is drawn needs no stitches.");
    }
}
