//! Many pictures in one texture.

use velvet_pan::glam::UVec2;
use wgpu::{
    Device, Extent3d, Origin3d, Queue, TexelCopyBufferLayout, TexelCopyTextureInfo, Texture,
    TextureAspect, TextureDescriptor, TextureDimension, TextureFormat, TextureUsages,
};

use crate::picture::Picture;

/// The smallest width of an atlas, in texels.
const MIN_WIDTH: u32 = 1024;

/// A texture with pictures in rows, and the position of each picture.
#[derive(Debug)]
pub struct Atlas {
    pub texture: Texture,
    /// The corner and the size of each picture, in texels.
    pub places: Vec<(UVec2, UVec2)>,
}

impl Atlas {
    pub fn new(device: &Device, queue: &Queue, pictures: &[Picture]) -> Self {
        let widest = pictures.iter().map(|picture| picture.size().x).max().unwrap_or(1);
        let (places, size) = in_rows(pictures, widest.max(MIN_WIDTH));
        let texture = device.create_texture(&TextureDescriptor {
            label: Some("atlas"),
            size: Extent3d { width: size.x, height: size.y, depth_or_array_layers: 1 },
            mip_level_count: 1,
            sample_count: 1,
            dimension: TextureDimension::D2,
            format: TextureFormat::Rgba8Unorm,
            usage: TextureUsages::TEXTURE_BINDING | TextureUsages::COPY_DST,
            view_formats: &[],
        });
        for (picture, (corner, size)) in pictures.iter().zip(&places) {
            queue.write_texture(
                TexelCopyTextureInfo {
                    texture: &texture,
                    mip_level: 0,
                    origin: Origin3d { x: corner.x, y: corner.y, z: 0 },
                    aspect: TextureAspect::All,
                },
                bytemuck::cast_slice(picture.pixels().data),
                TexelCopyBufferLayout {
                    offset: 0,
                    bytes_per_row: Some(size.x * 4),
                    rows_per_image: None,
                },
                Extent3d { width: size.x, height: size.y, depth_or_array_layers: 1 },
            );
        }
        Self { texture, places }
    }
}

/// Places pictures side by side, and starts a new row when one would not fit.
fn in_rows(pictures: &[Picture], width: u32) -> (Vec<(UVec2, UVec2)>, UVec2) {
    let (mut corner, mut row) = (UVec2::ZERO, 0);
    let places = pictures.iter().map(|picture| {
        let size = picture.size();
        if corner.x + size.x > width {
            corner = UVec2::new(0, corner.y + row);
            row = 0;
        }
        let place = (corner, size);
        corner.x += size.x;
        row = row.max(size.y);
        place
    });
    let places = places.collect();
    (places, UVec2::new(width, (corner.y + row).max(1)))
}
